package tidybridge.service.run;

import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;

/** Ends a call with a problem; carries no stack trace, because it is an ordinary answer. */
public final class Refusal extends Exception {

    private final transient Problem problem;

    public Refusal(Problem problem) {
        super(problem.detail(), null, false, false);
        this.problem = problem;
    }

    public Refusal(ProblemKind kind, String detail) {
        this(Problem.of(kind, detail));
    }

    public Problem problem() {
        return problem;
    }
}
