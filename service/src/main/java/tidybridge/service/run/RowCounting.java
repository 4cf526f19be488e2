package tidybridge.service.run;

import tidybridge.core.bind.Bound;
import tidybridge.core.catalog.RowCount;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.definition.Total;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.GivenFilters;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.Start;
import tidybridge.core.plan.Variant;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sql.Purpose;
import tidybridge.core.sql.TimeLimit;
import tidybridge.engine.Query;
import tidybridge.engine.SourceFailure;

/** Counts the rows of a collection under the conditions of one request, without their order. */
final class RowCounting {

    private static final int ONE_ROW_AHEAD = 2;

    private final RunnableOperation operation;
    private final CollectionPlan plan;
    private final Bound bound;
    private final Variant statement;

    RowCounting(RunnableOperation operation, CollectionPlan plan, Bound bound, PageOrder order, GivenFilters filters) {
        this.operation = operation;
        this.plan = plan;
        this.bound = bound;
        this.statement = plan.statement()
                .variant(
                        bound.values(),
                        order.from(Start.BEGINNING).with(filters).with(Purpose.COUNT));
    }

    RowCount count(Total total) throws SourceFailure, Refusal {
        return switch (total) {
            case EXACT -> exact();
            case ESTIMATE -> operation.source().estimate(statement, bound.values());
        };
    }

    private RowCount exact() throws SourceFailure, Refusal {
        long[] counted = {0};
        Query query = new Query(
                statement,
                bound.values(),
                null,
                1,
                ONE_ROW_AHEAD,
                new TimeLimit(plan.totals().timeout(), Purpose.COUNT));
        try {
            operation.source().read(query, found -> {
                if (found.next()) {
                    counted[0] = found.integer(0);
                }
            });
        } catch (SourceFailure e) {
            if (e.kind() == ConditionKind.TIMED_OUT) {
                throw tooLong();
            }
            throw e;
        }
        return new RowCount.Exact(counted[0]);
    }

    private Refusal tooLong() {
        boolean estimates = plan.totals().offered().contains(Total.ESTIMATE);
        return new Refusal(
                ProblemKind.STATEMENT_TIMEOUT,
                "The rows could not be counted within "
                        + plan.totals().timeout().toMillis() + " ms; "
                        + (estimates ? "ask for 'total=estimate', or for none" : "leave 'total' out")
                        + ", or ask for fewer rows with conditions.");
    }
}
