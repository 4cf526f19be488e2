package tidybridge.core.definition;

import java.util.List;
import tidybridge.core.text.Place;

/**
 * What somebody was told that an answer will be, before its statement was written. It changes nothing of the answer: what does not keep to it is found.
 *
 * @param statuses of the answers there will be; empty where nothing is said of them
 * @param fields of the answer, or of each of its rows
 */
public record PromiseRule(Place place, List<Integer> statuses, List<PromisedField> fields) {

    /**
     * One field.
     *
     * @param name as callers see it, with dots for nested objects
     * @param nullable true when null was told of, too
     */
    public record PromisedField(String name, Place place, ParameterType type, boolean nullable) {}

    public PromiseRule {
        statuses = List.copyOf(statuses);
        fields = List.copyOf(fields);
    }
}
