package tidybridge.core.contract;

import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.ParameterType;

/**
 * What a list may hold.
 *
 * @param type of each item
 * @param limits of each item
 * @param unique true when no two items may be equal
 * @param commas true when a query has the items in one value, with commas between them
 */
public record ListTerms(
        ParameterType type, LimitTerms limits, int minItems, int maxItems, boolean unique, boolean commas) {

    static ListTerms of(ListRule rule) {
        return new ListTerms(
                rule.type(),
                LimitTerms.of(rule.constraints()),
                rule.minItems(),
                rule.maxItems(),
                rule.unique(),
                rule.commas());
    }
}
