package tidybridge.core.bind;

import java.util.List;
import tidybridge.core.problem.InputError;

/** A request's inputs do not fit; holds every mistake that was found. */
public final class BadInput extends Exception {

    private final List<InputError> errors;

    public BadInput(List<InputError> errors) {
        super(errors.size() + " inputs do not fit", null, false, false);
        this.errors = List.copyOf(errors);
    }

    public List<InputError> errors() {
        return errors;
    }
}
