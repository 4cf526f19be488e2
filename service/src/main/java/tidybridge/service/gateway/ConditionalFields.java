package tidybridge.service.gateway;

import java.time.ZonedDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Inputs;
import tidybridge.core.problem.InputError;
import tidybridge.service.run.StateCondition;

/** Reads the header fields that make a change conditional (RFC 9110, 13.1). */
final class ConditionalFields {

    private ConditionalFields() {}

    /**
     * Reads them.
     *
     * @throws BadInput for a time that cannot be read where it would count: to ignore it could lose somebody's change
     */
    static StateCondition read(Inputs inputs) throws BadInput {
        String match = inputs.header("If-Match");
        String noneMatch = inputs.header("If-None-Match");
        String since = inputs.header("If-Unmodified-Since");
        if (match == null && noneMatch == null && since == null) {
            return StateCondition.NONE;
        }
        ZonedDateTime time = HttpTimes.read(since);
        if (since != null && time == null && match == null) {
            throw new BadInput(
                    List.of(
                            new InputError(
                                    "If-Unmodified-Since",
                                    "header",
                                    "'If-Unmodified-Since' must be a time such as 'Thu, 01 May 2031 12:30:00 GMT'; take it from Last-Modified as it is.")));
        }
        // If-Match counts where both are sent (RFC 9110, 13.1.4)
        return new StateCondition(tags(match, false), tags(noneMatch, true), match == null ? time : null, true);
    }

    private static StateCondition.@Nullable Tags tags(@Nullable String field, boolean weak) {
        return field == null ? null : new TagList(field, weak);
    }
}
