package tidybridge.core.contract;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.FilterOperator;
import tidybridge.core.definition.Total;

/**
 * What is promised of a collection.
 *
 * @param limit rows of a page when the caller does not say
 * @param most rows that a caller may ask for
 * @param mostOfAll rows that a caller gets who asks for all of them; 0 when nobody may
 * @param jumps whether a caller may begin at a row, ask for the last page, and go back
 * @param order what rows are ordered by unless the caller says
 * @param sortable fields that callers may order by
 * @param search what callers may search words with; null for nothing
 * @param filters conditions that callers may put on the rows
 * @param totals how callers may have the rows counted
 */
public record PageTerms(
        int limit,
        int most,
        int mostOfAll,
        boolean jumps,
        List<KeyTerms> order,
        List<String> sortable,
        @Nullable InputTerms search,
        List<FilterTerms> filters,
        List<Total> totals) {
    public PageTerms {
        order = List.copyOf(order);
        sortable = List.copyOf(sortable);
        filters = List.copyOf(filters);
        totals = List.copyOf(totals);
    }

    /** One field of an order. */
    public record KeyTerms(String name, boolean descending) {

        @Override
        public String toString() {
            return name + (descending ? " (descending)" : "");
        }
    }

    /**
     * One condition.
     *
     * @param field as callers see it, with dots for what is nested
     * @param value how its value is read
     */
    public record FilterTerms(String field, FilterOperator operator, InputTerms value) {}

    /** True when callers may ask for all rows at once. */
    public boolean offersAll() {
        return mostOfAll > 0;
    }
}
