package tidybridge.core.definition;

import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What orders a collection, and what its callers may ask of it.
 *
 * @param order what pages are ordered by; empty when the text says nothing
 * @param page set for {@link AnswerKind#ROWS} and null for every other answer
 * @param sorts what callers may sort by
 * @param search where callers may search for words; null for nowhere
 * @param filters what callers may filter by
 * @param filterSite where their conditions are put
 * @param totals how callers may have the rows counted
 * @param totalTimeout how long counting may take
 */
public record CollectionRules(
        List<OrderKey> order,
        @Nullable PageRule page,
        List<SortRule> sorts,
        @Nullable SearchRule search,
        List<FilterRule> filters,
        FilterSite filterSite,
        Set<Total> totals,
        Duration totalTimeout) {

    /** How long counting may take when the text does not say. */
    public static final Duration USUAL_TOTAL_TIMEOUT = Duration.ofSeconds(5);

    public CollectionRules {
        order = List.copyOf(order);
        sorts = List.copyOf(sorts);
        filters = List.copyOf(filters);
        totals = Set.copyOf(totals);
    }
}
