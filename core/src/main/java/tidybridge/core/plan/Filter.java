package tidybridge.core.plan;

import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.FilterOperator;
import tidybridge.core.definition.ParameterDefinition;

/**
 * One condition that callers may put on a collection.
 *
 * @param field as callers see it, with dots for what is nested
 * @param comparison how the value is compared
 * @param around the column as it is named around the statement
 * @param inside as it is named in the statement's own conditions; null where a condition there would not be the same
 * @param parameter what reads its value
 */
public record Filter(
        String field,
        FilterOperator operator,
        Comparison comparison,
        String around,
        @Nullable String inside,
        ParameterDefinition parameter) {

    /** How a value is compared with a column. */
    public enum Comparison {
        /** As it is. */
        VALUE,
        /** True is every number but 0, as the answer shows it. */
        FLAG,
        /** By the words it has in it, of all the columns that are named. */
        WORDS,
        /** Rounded to the single precision that its column has, as the answer shows it. */
        SINGLE
    }

    /** True for a search for words, which is no condition on one field. */
    public boolean isSearch() {
        return comparison == Comparison.WORDS;
    }
}
