package tidybridge.core.definition;

import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Quota;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/**
 * What answers one method on one route.
 *
 * @param steps the statements in the order they run; one for most operations
 * @param answeredBy the index of the step whose result is the answer
 * @param access who may call it
 * @param quota how often; null for as often as its module lets
 * @param id what the reference calls it; null to have a name made of method and path
 * @param collection what orders its rows, and what callers may ask of them
 * @param reply what is said beside the body
 * @param change how it changes data, if it does
 * @param assistants null where the text says nothing
 * @param deprecated null while callers may use it
 * @param accepted the findings this operation's text accepts
 */
public record OperationDefinition(
        Method method,
        Place place,
        AccessRule access,
        @Nullable Quota quota,
        @Nullable String id,
        @Nullable String about,
        List<StepDefinition> steps,
        int answeredBy,
        AnswerDefinition answer,
        CollectionRules collection,
        Duration timeout,
        List<ParameterDefinition> parameters,
        ReplyRule reply,
        ChangeRules change,
        @Nullable Assistants assistants,
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
        steps = List.copyOf(steps);
        parameters = List.copyOf(parameters);
        accepted = List.copyOf(accepted);
    }

    /** The same without what was promised of its answer, for whoever tries it before the promise is kept. */
    public OperationDefinition withoutPromise() {
        return new OperationDefinition(
                method,
                place,
                access,
                quota,
                id,
                about,
                steps,
                answeredBy,
                answer.withoutPromise(),
                collection,
                timeout,
                parameters,
                reply,
                change,
                assistants,
                deprecated,
                accepted);
    }

    /** What pages are ordered by; empty when the text says nothing. */
    public List<OrderKey> order() {
        return collection.order();
    }

    /** How large pages are; null for what is no collection. */
    public @Nullable PageRule page() {
        return collection.page();
    }

    /** The step whose result is the answer. */
    public StepDefinition main() {
        return steps.get(answeredBy);
    }

    /** The text of the statement that answers. */
    public SourceText sql() {
        return main().sql();
    }
}
