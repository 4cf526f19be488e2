package tidybridge.service.desk;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;

/** Ends a management call with a problem. */
final class DeskRefusal extends RuntimeException {

    private final transient Problem problem;

    DeskRefusal(ProblemKind kind, String detail) {
        super(detail, null, false, false);
        this.problem = Problem.of(kind, detail);
    }

    /** A list of texts that a request may leave out, but not fill with nulls. */
    static List<String> texts(String field, @Nullable List<@Nullable String> texts) {
        List<String> given = new ArrayList<>();
        for (String text : texts == null ? List.<@Nullable String>of() : texts) {
            if (text == null) {
                throw new DeskRefusal(
                        ProblemKind.BAD_INPUT, "'" + field + "' holds texts; leave out what is not given.");
            }
            given.add(text);
        }
        return given;
    }

    Problem problem() {
        return problem;
    }
}
