package tidybridge.service.desk;

import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;

/** Ends a management call with a problem. */
final class DeskRefusal extends RuntimeException {

    private final transient Problem problem;

    DeskRefusal(ProblemKind kind, String detail) {
        super(detail, null, false, false);
        this.problem = Problem.of(kind, detail);
    }

    Problem problem() {
        return problem;
    }
}
