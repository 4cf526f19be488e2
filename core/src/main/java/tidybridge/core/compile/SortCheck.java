package tidybridge.core.compile;

import java.util.List;
import tidybridge.core.catalog.Access;
import tidybridge.core.definition.SortRule;
import tidybridge.core.finding.Code;
import tidybridge.core.plan.Sorts;
import tidybridge.core.plan.Start;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.Variant;

/** Tells which of the orders that callers may ask for no index serves, as only a source can. */
final class SortCheck {

    private final OperationScope scope;
    private final StatementPlan plan;
    private final Sorts sorts;

    SortCheck(OperationScope scope, StatementPlan plan, Sorts sorts) {
        this.scope = scope;
        this.plan = plan;
        this.sorts = sorts;
    }

    void check() {
        List<String> names = List.copyOf(sorts.sortable().lengths().keySet());
        List<SortRule> rules = scope.operation().collection().sorts();
        for (int i = 0; i < names.size() && names.size() == rules.size(); i++) {
            long rows = sortedRows(names.get(i));
            if (rows >= CatalogCheck.MANY_ROWS) {
                scope.findings()
                        .add(
                                Code.SORT_UNSERVED,
                                rules.get(i).place(),
                                "No index serves the sort by '" + names.get(i) + "': the database reads about " + rows
                                        + " rows and sorts them for every page.",
                                "Give it an index that begins with the column and goes on with the order, or accept it.");
            }
        }
    }

    /** How many rows the database would sort; 0 for none. */
    private long sortedRows(String name) {
        Variant form = plan.sample(sorts.order(name).from(Start.BEGINNING));
        return scope
                .catalog()
                .explain(form.sql(), SampleValues.of(form, scope.operation().parameters()))
                .stream()
                .filter(Access::sorts)
                .mapToLong(Access::rows)
                .max()
                .orElse(0);
    }
}
