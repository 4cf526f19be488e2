package tidybridge.core.compile;

import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Access;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.Relation;
import tidybridge.core.definition.FilterOperator;
import tidybridge.core.definition.FilterRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.plan.Filter;
import tidybridge.core.plan.Filters;
import tidybridge.core.plan.PageRequest;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.Variant;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Statement;

/** What only a source tells about filters: whether it takes them, and whether an index serves them. */
final class FilterCheck {

    /** What no index finds. */
    private static final Set<FilterOperator> NEVER_SERVED = EnumSet.of(FilterOperator.CONTAINS, FilterOperator.NE);

    private final OperationScope scope;
    private final Catalog catalog;
    private final Outline outline;
    private final StatementPlan plan;
    private final Filters filters;
    private final List<Field> columns;
    private final List<ParameterDefinition> inputs;
    private final PageRequest page;

    /** @param page the first one of the collection, with no condition on it */
    FilterCheck(
            OperationScope scope,
            Statement statement,
            StatementPlan plan,
            Filters filters,
            List<Field> columns,
            PageRequest page) {
        this.scope = scope;
        this.catalog = scope.catalog();
        this.outline = statement.outline();
        this.plan = plan;
        this.filters = filters;
        this.columns = columns;
        this.page = page;
        this.inputs = Stream.concat(scope.operation().parameters().stream(), filters.parameters().stream())
                .toList();
    }

    /** False, with a finding, when the source refuses one of the conditions. */
    boolean suits() {
        int[] all = IntStream.range(0, filters.all().size()).toArray();
        if (all.length == 0) {
            return true;
        }
        if (refusal(all) != null) {
            for (int one : all) {
                String reason = refusal(one);
                if (reason != null) {
                    refused(filters.all().get(one), reason);
                    return false;
                }
            }
        }
        catalog.contents().ifPresent(this::checkIndexes);
        return true;
    }

    private Variant form(int... some) {
        return plan.sample(page.with(filters.sample(some)));
    }

    private @Nullable String refusal(int... some) {
        return catalog.describe(form(some).sql()) instanceof Described.Refused(String reason) ? reason : null;
    }

    private void refused(Filter filter, String reason) {
        scope.findings()
                .add(
                        Code.FILTER_UNFIT,
                        filter.parameter().place(),
                        "The source cannot compare the field '" + filter.field() + "' by "
                                + filter.operator().label() + ": " + reason + ".",
                        "Leave the operator out, or select the field as a type that can be compared so.");
    }

    /** Tells once for each field which of its operators make the database look at every row. */
    private void checkIndexes(Contents contents) {
        Map<String, Boolean> served = new LinkedHashMap<>();
        for (FilterRule rule : scope.operation().collection().filters()) {
            List<Integer> own = IntStream.range(0, filters.all().size())
                    .filter(index ->
                            filters.all().get(index).parameter().place().equals(rule.place()))
                    .boxed()
                    .toList();
            Field column = columns.stream()
                    .filter(field -> field.name().equals(rule.column()))
                    .findFirst()
                    .orElseThrow();
            long rows = rows(column, contents);
            if (rows < CatalogCheck.MANY_ROWS) {
                continue;
            }
            List<String> unserved = own.stream()
                    .filter(index -> !isServed(index, column, contents, served))
                    .map(index -> filters.all().get(index).operator().label())
                    .toList();
            if (!unserved.isEmpty()) {
                scope.findings()
                        .add(
                                Code.FILTER_UNSERVED,
                                rule.place(),
                                "No index serves the filter '" + rule.column() + "' by " + String.join(", ", unserved)
                                        + ": the database looks at up to " + rows + " rows for a page.",
                                "Give the column an index, name the operators that callers need, as in '"
                                        + rule.column() + ": [eq, in]', or accept it.");
            }
        }
    }

    private boolean isServed(int index, Field column, Contents contents, Map<String, Boolean> served) {
        Filter filter = filters.all().get(index);
        if (NEVER_SERVED.contains(filter.operator())) {
            return false;
        }
        // what an index can do for one comparison it can do for the others
        return served.computeIfAbsent(filter.field(), field -> isFound(index, column, contents));
    }

    private boolean isFound(int index, Field column, Contents contents) {
        Field.Origin origin = column.origin();
        Variant form = form(index);
        List<Access> accesses = catalog.explain(form.sql(), SampleValues.of(form, inputs));
        if (accesses.isEmpty()) {
            // nobody knows, so nothing is claimed
            return true;
        }
        if (origin == null) {
            return false;
        }
        return contents.relation(origin.schema(), origin.table())
                .map(relation -> accesses.stream().anyMatch(access -> isServed(access, relation, origin.column())))
                .orElse(false);
    }

    private boolean isServed(Access access, Relation relation, String column) {
        return isOf(access.table(), relation)
                && relation.indexes().stream()
                        .anyMatch(index -> access.candidates().contains(index.name())
                                && index.columns().stream().anyMatch(column::equalsIgnoreCase));
    }

    private boolean isOf(String alias, Relation relation) {
        return outline.blocks().stream()
                .map(Outline.Block::tables)
                .flatMap(List::stream)
                .anyMatch(table ->
                        table.alias().equalsIgnoreCase(alias) && relation.name().equalsIgnoreCase(table.name()));
    }

    /** How many rows its table has; of something computed, the largest table that is read. */
    private long rows(Field column, Contents contents) {
        Field.Origin origin = column.origin();
        Stream<Relation> read = origin == null
                ? outline.blocks().stream()
                        .flatMap(block -> block.tables().stream())
                        .flatMap(table -> contents.relation(String.valueOf(table.name())).stream())
                : contents.relation(origin.schema(), origin.table()).stream();
        return read.mapToLong(Relation::rows).max().orElse(0);
    }
}
