package tidybridge.service.run;

import java.time.Duration;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;

/** Ends a call with a problem; carries no stack trace, because it is an ordinary answer. */
public final class Refusal extends Exception {

    private static final int NEARLY_A_SECOND = 999;

    private final transient Problem problem;
    private final transient Map<String, String> fields;
    private final transient @Nullable String reason;

    public Refusal(Problem problem) {
        this(problem, Map.of());
    }

    public Refusal(ProblemKind kind, String detail) {
        this(Problem.of(kind, detail));
    }

    /**
     * A refusal with header fields of its own.
     *
     * @param fields by name
     */
    public Refusal(Problem problem, Map<String, String> fields) {
        this(problem, fields, null);
    }

    private Refusal(Problem problem, Map<String, String> fields, @Nullable String reason) {
        super(problem.detail(), null, false, false);
        this.problem = problem;
        this.fields = Map.copyOf(fields);
        this.reason = reason;
    }

    /** A refusal whose caller is told less than whoever runs the service may know. */
    public static Refusal because(ProblemKind kind, String detail, String reason) {
        return new Refusal(Problem.of(kind, detail), Map.of(), reason);
    }

    /** A refusal until some time has passed, which {@code Retry-After} tells in whole seconds. */
    public static Refusal until(ProblemKind kind, String detail, Duration wait) {
        return new Refusal(Problem.of(kind, detail), Map.of("Retry-After", String.valueOf(seconds(wait))));
    }

    /** Whole seconds after which a time has passed, at least one. */
    public static long seconds(Duration wait) {
        return Math.max(1, wait.plusMillis(NEARLY_A_SECOND).toSeconds());
    }

    public Problem problem() {
        return problem;
    }

    /** Why, for whoever runs the service. It holds nothing of what was shown. */
    public String reason() {
        return reason == null ? problem.detail() : reason;
    }

    /** Header fields that are sent with it, beside those of every problem. */
    public Map<String, String> fields() {
        return fields;
    }
}
