package tidybridge.service.gateway;

import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Inputs;
import tidybridge.service.run.StateCondition;

/** Reads the header fields that make a change conditional (RFC 9110, 13.1). */
final class ConditionalFields {

    private ConditionalFields() {}

    static StateCondition read(Inputs inputs) {
        String match = inputs.header("If-Match");
        String noneMatch = inputs.header("If-None-Match");
        String since = inputs.header("If-Unmodified-Since");
        if (match == null && noneMatch == null && since == null) {
            return StateCondition.NONE;
        }
        return new StateCondition(tags(match, false), tags(noneMatch, true), HttpTimes.read(since), true);
    }

    private static StateCondition.@Nullable Tags tags(@Nullable String field, boolean weak) {
        return field == null ? null : new TagList(field, weak);
    }
}
