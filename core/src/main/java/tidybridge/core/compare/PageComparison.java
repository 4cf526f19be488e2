package tidybridge.core.compare;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.contract.PageTerms;
import tidybridge.core.definition.Total;

/** Compares what callers may ask of a collection. */
final class PageComparison {

    private final Differences found;

    PageComparison(Differences found) {
        this.found = found;
    }

    void compare(OperationTerms before, OperationTerms now) {
        PageTerms page = before.page();
        PageTerms other = now.page();
        if (page != null && other != null) {
            compareSizes(page, other);
            compareOrders(page, other);
            compareFilters(page.filters(), other.filters());
            compareSearch(page.search(), other.search());
            found.addMembers(
                    page.sortable(),
                    other.sortable(),
                    DifferenceKind.SORT_REMOVED,
                    "Callers can no longer sort by '{}'.",
                    DifferenceKind.SORT_ADDED,
                    "Callers can sort by '{}' too.");
            found.addMembers(
                    totals(page),
                    totals(other),
                    DifferenceKind.OFFER_REMOVED,
                    "{} is gone.",
                    DifferenceKind.OFFER_ADDED,
                    "{} counts the rows.");
            found.addIf(
                    page.jumps(),
                    other.jumps(),
                    DifferenceKind.OFFER_REMOVED,
                    "'from', 'last' and 'before' are gone.",
                    DifferenceKind.OFFER_ADDED,
                    "Callers can begin at a row, ask for the last page, and go back.");
        }
    }

    private static List<String> totals(PageTerms page) {
        return page.totals().stream().map(Total::label).map("total="::concat).toList();
    }

    private void compareSizes(PageTerms before, PageTerms now) {
        if (before.limit() != now.limit()) {
            found.add(
                    DifferenceKind.PAGE_SIZE_CHANGED,
                    "A page has " + now.limit() + " rows unless callers say otherwise, in place of " + before.limit()
                            + ".");
        }
        compareCeilings("A page may have ", before.most(), now.most());
        if (before.offersAll() && now.offersAll()) {
            compareCeilings("limit=all gives ", before.mostOfAll(), now.mostOfAll());
        } else {
            found.addIf(
                    before.offersAll(),
                    now.offersAll(),
                    DifferenceKind.OFFER_REMOVED,
                    "limit=all is gone.",
                    DifferenceKind.OFFER_ADDED,
                    "limit=all gives every row.");
        }
    }

    private void compareCeilings(String begin, int before, int now) {
        if (before != now) {
            found.add(
                    now < before ? DifferenceKind.CEILING_LOWERED : DifferenceKind.CEILING_RAISED,
                    begin + now + " rows at most, in place of " + before + ".");
        }
    }

    private void compareOrders(PageTerms before, PageTerms now) {
        if (!before.order().equals(now.order())) {
            found.add(
                    DifferenceKind.ORDER_CHANGED,
                    "Rows are ordered by " + order(now) + " now and were ordered by " + order(before) + ".");
        }
    }

    private static String order(PageTerms page) {
        return String.join(
                ", ", page.order().stream().map(PageTerms.KeyTerms::toString).toList());
    }

    private void compareFilters(List<PageTerms.FilterTerms> before, List<PageTerms.FilterTerms> now) {
        for (PageTerms.FilterTerms filter : before) {
            Optional<PageTerms.FilterTerms> same = find(filter, now);
            if (same.isPresent()) {
                new InputComparison(found)
                        .compare(
                                "The filter " + name(filter),
                                filter.value(),
                                same.get().value());
            } else {
                found.add(DifferenceKind.FILTER_REMOVED, "The filter " + name(filter) + " is gone.");
            }
        }
        for (PageTerms.FilterTerms filter : now) {
            if (find(filter, before).isEmpty()) {
                found.add(DifferenceKind.FILTER_ADDED, "The filter " + name(filter) + " is new.");
            }
        }
    }

    private static Optional<PageTerms.FilterTerms> find(
            PageTerms.FilterTerms wanted, List<PageTerms.FilterTerms> filters) {
        return filters.stream()
                .filter(filter -> filter.field().equals(wanted.field()) && filter.operator() == wanted.operator())
                .findFirst();
    }

    private static String name(PageTerms.FilterTerms filter) {
        return filter.value().name();
    }

    private void compareSearch(@Nullable InputTerms before, @Nullable InputTerms now) {
        if (before != null && now != null && before.name().equals(now.name())) {
            new InputComparison(found).compare("The search '" + before.name() + "'", before, now);
            return;
        }
        if (before != null) {
            found.add(DifferenceKind.OFFER_REMOVED, "The search '" + before.name() + "' is gone.");
        }
        if (now != null) {
            found.add(DifferenceKind.OFFER_ADDED, "Callers can search with '" + now.name() + "'.");
        }
    }
}
