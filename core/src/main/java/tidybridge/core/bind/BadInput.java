package tidybridge.core.bind;

import java.util.List;
import tidybridge.core.problem.InputError;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;

/** A request's inputs do not fit: every mistake that was found, or what the caller's credential does not say and must. */
public final class BadInput extends Exception {

    private final transient Problem problem;
    private final List<InputError> errors;

    public BadInput(List<InputError> errors) {
        this(errors, Problem.badInput(errors));
    }

    private BadInput(List<InputError> errors, Problem problem) {
        super(errors.size() + " inputs do not fit", null, false, false);
        this.errors = List.copyOf(errors);
        this.problem = problem;
    }

    /**
     * Something about the caller that is required is not known, so that whatever is filtered by it would be empty.
     *
     * @param what as the text names it
     */
    static BadInput ofCaller(Caller caller, String what) {
        return new BadInput(
                List.of(),
                caller.isKnown()
                        ? Problem.of(
                                ProblemKind.PRIVILEGE_NEEDED,
                                "The call needs the caller's '" + what + "', which the credential does not say.")
                        : Problem.of(
                                ProblemKind.SIGN_IN_NEEDED,
                                "The call needs to know who calls; send a credential as 'Authorization: Bearer ...'."));
    }

    public List<InputError> errors() {
        return errors;
    }

    /** What the caller is told. */
    public Problem problem() {
        return problem;
    }
}
