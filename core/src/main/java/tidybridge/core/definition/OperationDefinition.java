package tidybridge.core.definition;

import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/**
 * What answers one method on one route.
 *
 * @param sql the statement's text; its file is the path inside the module
 * @param page set for {@link AnswerKind#ROWS} and null for every other answer
 * @param order what pages are ordered by; empty when the text says nothing
 * @param deprecated null while callers may use it
 * @param accepted the findings this operation's text accepts
 */
public record OperationDefinition(
        Method method,
        Place place,
        @Nullable String about,
        SourceText sql,
        Place sqlPlace,
        AnswerDefinition answer,
        List<OrderKey> order,
        @Nullable PageRule page,
        Duration timeout,
        List<ParameterDefinition> parameters,
        @Nullable Deprecation deprecated,
        List<Acceptance> accepted) {

    /** How long a statement may run when the text does not say. */
    public static final Duration DEFAULT_TIMEOUT = Duration.ofSeconds(10);

    /** The longest a statement may be allowed to run. */
    public static final Duration LONGEST_TIMEOUT = Duration.ofMinutes(10);

    /** {@code GET /berths}, what people call an operation inside its module. */
    public static String label(Method method, String path) {
        return method + " " + path;
    }

    public OperationDefinition {
        order = List.copyOf(order);
        parameters = List.copyOf(parameters);
        accepted = List.copyOf(accepted);
    }
}
