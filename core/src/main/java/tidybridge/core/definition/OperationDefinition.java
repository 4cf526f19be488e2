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
 */
public record OperationDefinition(
        Method method,
        Place place,
        @Nullable String about,
        SourceText sql,
        Place sqlPlace,
        AnswerKind answer,
        List<OrderKey> order,
        @Nullable PageRule page,
        Duration timeout,
        List<ParameterDefinition> parameters) {

    /** How long a statement may run when the text does not say. */
    public static final Duration DEFAULT_TIMEOUT = Duration.ofSeconds(10);

    /** The longest a statement may be allowed to run. */
    public static final Duration LONGEST_TIMEOUT = Duration.ofMinutes(10);

    public OperationDefinition {
        order = List.copyOf(order);
        parameters = List.copyOf(parameters);
    }
}
