package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Binder;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.Index;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.FilterOperator;
import tidybridge.core.definition.In;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.definition.SearchRule;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.infer.SelectedColumns;
import tidybridge.core.plan.Filter;
import tidybridge.core.sql.Statement;

/** Compiles where callers may search a collection for words. */
final class SearchCompiler {

    /** The longest search, in characters. */
    private static final int LONGEST = 200;

    private final OperationDefinition operation;
    private final Statement statement;
    private final @Nullable Contents contents;
    private final Findings findings;
    private final List<Field> columns;
    private final List<ShapedField> fields;

    /**
     * Prepares to compile.
     *
     * @param contents null when nobody can be asked
     * @param columns of the statement
     * @param fields of the answer
     */
    SearchCompiler(
            OperationDefinition operation,
            Statement statement,
            @Nullable Contents contents,
            Findings findings,
            List<Field> columns,
            List<ShapedField> fields) {
        this.operation = operation;
        this.statement = statement;
        this.contents = contents;
        this.findings = findings;
        this.columns = columns;
        this.fields = fields;
    }

    /** The search as a condition; null with a finding when there can be none. */
    @Nullable
    Filter compile(SearchRule rule) {
        if (operation.parameters().stream()
                .anyMatch(parameter ->
                        parameter.in() == In.QUERY && parameter.wireName().equals(Binder.SEARCH))) {
            return unfit(
                    rule,
                    "A parameter of the query is called '" + Binder.SEARCH + "' too.",
                    "Give the parameter another name.");
        }
        SelectedColumns selected = new SelectedColumns(statement);
        List<String> named = new ArrayList<>();
        List<Field.Origin> origins = new ArrayList<>();
        for (String name : rule.columns()) {
            Optional<Field> column =
                    columns.stream().filter(field -> field.name().equals(name)).findFirst();
            String inside = selected.named(name);
            Field.Origin origin = column.map(Field::origin).orElse(null);
            if (origin == null || inside == null) {
                return unfit(
                        rule,
                        "The words of '" + name + "' cannot be searched: it is no plain column of a plain query.",
                        "Name columns that the statement selects as they are, without groups, windows, limits or unions.");
            }
            if (isSecret(columns.indexOf(column.get()))) {
                findings.add(
                        Code.FILTER_LEAKS,
                        rule.place(),
                        "The field '" + name
                                + "' is hidden or masked, and callers who search it would find out its values.",
                        "Show it as it is, or do not search it.");
                return null;
            }
            named.add(inside);
            origins.add(origin);
        }
        return isIndexed(origins)
                ? search(rule, String.join(", ", named))
                : unfit(
                        rule,
                        "The source has no full-text index over exactly these columns of one table.",
                        "Give it one: 'create fulltext index words on "
                                + origins.getFirst().table() + " ("
                                + String.join(
                                        ", ",
                                        origins.stream()
                                                .map(Field.Origin::column)
                                                .toList()) + ")'.");
    }

    private @Nullable Filter unfit(SearchRule rule, String problem, String remedy) {
        findings.add(Code.SEARCH_UNFIT, rule.place(), problem, remedy);
        return null;
    }

    private boolean isSecret(int column) {
        return fields.stream().noneMatch(field -> field.column() == column && field.mask() == null);
    }

    private boolean isIndexed(List<Field.Origin> origins) {
        Field.Origin first = origins.getFirst();
        List<String> names = origins.stream().map(Field.Origin::column).toList();
        return contents != null
                && origins.stream().allMatch(origin -> origin.table().equals(first.table()))
                && contents.relation(first.schema(), first.table()).stream()
                        .flatMap(relation -> relation.indexes().stream())
                        .filter(Index::ofWords)
                        .anyMatch(index -> index.columns().size() == names.size()
                                && index.columns().containsAll(names));
    }

    private static Filter search(SearchRule rule, String named) {
        ParameterDefinition parameter = new ParameterDefinition(
                Binder.SEARCH,
                Binder.SEARCH,
                rule.place(),
                In.QUERY,
                ParameterType.STRING,
                true,
                false,
                false,
                "Only rows that have one of these words in " + String.join(", ", rule.columns()) + ".",
                null,
                null,
                new Constraints(null, null, null, null, null, 1, LONGEST, null, List.of()),
                null,
                null);
        return new Filter(Binder.SEARCH, FilterOperator.EQ, Filter.Comparison.WORDS, named, named, parameter);
    }
}
