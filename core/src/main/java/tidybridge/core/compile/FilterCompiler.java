package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Askable;
import tidybridge.core.bind.Binder;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.FilterOperator;
import tidybridge.core.definition.FilterRule;
import tidybridge.core.definition.FilterSite;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.definition.SearchRule;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.infer.SelectedColumns;
import tidybridge.core.plan.Filter;
import tidybridge.core.plan.Filter.Comparison;
import tidybridge.core.plan.Filters;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.Nearest;

/** Compiles what callers may filter a collection by. */
final class FilterCompiler {

    private static final int MOST_FIELDS = 50;
    private static final int MOST_ITEMS = 100;

    private static final List<FilterOperator> EVERY = List.of(FilterOperator.values());
    private static final List<FilterOperator> OF_ORDER = EVERY.stream()
            .filter(operator -> operator != FilterOperator.STARTS && operator != FilterOperator.CONTAINS)
            .toList();
    private static final List<FilterOperator> OF_IDENTITY =
            List.of(FilterOperator.EQ, FilterOperator.NE, FilterOperator.IN, FilterOperator.NULL);
    private static final List<FilterOperator> OF_FLAG =
            List.of(FilterOperator.EQ, FilterOperator.NE, FilterOperator.NULL);
    private static final List<FilterOperator> OF_PRESENCE = List.of(FilterOperator.NULL);

    private final OperationDefinition operation;
    private final Statement statement;
    private final @Nullable Contents contents;
    private final Findings findings;
    private final List<Field> columns;
    private final List<ShapedField> fields;

    /**
     * Prepares to compile.
     *
     * @param columns of the statement
     * @param fields of the answer
     */
    FilterCompiler(OperationScope scope, Statement statement, List<Field> columns, List<ShapedField> fields) {
        this.operation = scope.operation();
        this.statement = statement;
        this.contents = scope.catalog().contents().orElse(null);
        this.findings = scope.findings();
        this.columns = columns;
        this.fields = fields;
    }

    Filters compile() {
        SearchRule search = operation.collection().search();
        if (operation.collection().filters().isEmpty() && search == null) {
            return Filters.NONE;
        }
        if (operation.collection().filters().size() > MOST_FIELDS) {
            findings.add(
                    Code.FILTER_UNFIT,
                    operation.collection().filters().getFirst().place(),
                    "Callers may filter by " + operation.collection().filters().size() + " fields, and " + MOST_FIELDS
                            + " can be.",
                    "Name those that callers need.");
            return Filters.NONE;
        }
        SelectedColumns selected = new SelectedColumns(statement);
        Set<String> seen = new HashSet<>();
        List<Filter> filters = new ArrayList<>();
        for (FilterRule rule : operation.collection().filters()) {
            ShapedField field = field(rule);
            if (field != null && isOnlyOne(rule, field, seen)) {
                String inside = inside(rule, selected);
                operators(rule, field).forEach(operator -> filters.add(filter(rule, field, operator, inside)));
            }
        }
        if (search != null) {
            Filter words =
                    new SearchCompiler(operation, statement, contents, findings, columns, fields).compile(search);
            if (words != null) {
                filters.add(words);
            }
        }
        return new Filters(filters, operation.parameters().size());
    }

    /** The field as callers see it; null with a finding when nobody may filter by it. */
    private @Nullable ShapedField field(FilterRule rule) {
        List<String> names = columns.stream().map(Field::name).toList();
        int column = names.indexOf(rule.column());
        if (column < 0) {
            findings.add(
                    Code.FILTER_UNKNOWN,
                    rule.place(),
                    "The statement returns no column '" + rule.column() + "' to filter by."
                            + Nearest.hint(rule.column(), names),
                    "Use one of: " + String.join(", ", names) + ".");
            return null;
        }
        ShapedField shown = fields.stream()
                .filter(field -> field.column() == column)
                .findFirst()
                .orElse(null);
        if (shown == null || shown.mask() != null) {
            findings.add(
                    Code.FILTER_LEAKS,
                    rule.place(),
                    "The field '" + rule.column() + "' is " + (shown == null ? "hidden" : "masked")
                            + ", and callers who filter by it would find out its values.",
                    "Show it as it is, or do not filter by it.");
            return null;
        }
        return shown;
    }

    private boolean isOnlyOne(FilterRule rule, ShapedField field, Set<String> seen) {
        if (!seen.add(field.name())) {
            findings.add(
                    Code.FILTER_UNFIT,
                    rule.place(),
                    "The field '" + rule.column() + "' stands under 'filter' twice.",
                    "Write all of its operators at one place.");
            return false;
        }
        boolean clashes = operation.parameters().stream()
                        .anyMatch(parameter -> parameter.in() == In.QUERY && isOf(field, parameter.wireName()))
                || Askable.names(operation).contains(field.name())
                || field.name().equals(Binder.SEARCH);
        if (clashes) {
            findings.add(
                    Code.FILTER_CLASHES,
                    rule.place(),
                    "The field '" + field.name()
                            + "' is called as a parameter of the query is, and callers could not tell them apart.",
                    "Give one of them another name, or let the filter take the parameter's place.");
        }
        return !clashes;
    }

    private static boolean isOf(ShapedField field, String parameter) {
        return parameter.equals(field.name()) || parameter.startsWith(field.name() + "[");
    }

    /** What it is called among the statement's own conditions; null when the condition stands around the statement. */
    private @Nullable String inside(FilterRule rule, SelectedColumns selected) {
        if (operation.collection().filterSite() == FilterSite.ANSWER) {
            return null;
        }
        // what the database knows of no table is a function without parentheses, or something else that only looks like
        // a column
        boolean isColumn =
                columns.stream().anyMatch(field -> field.name().equals(rule.column()) && field.origin() != null);
        String column = isColumn ? selected.named(rule.column()) : null;
        if (column == null && operation.collection().filterSite() == FilterSite.STATEMENT) {
            findings.add(
                    Code.FILTER_UNFIT,
                    rule.place(),
                    "A condition on '" + rule.column()
                            + "' inside of the statement could find other rows: it is computed, or the statement groups, numbers, limits or combines its rows.",
                    "Select it as a plain column of a plain query, or leave 'filter-at' out.");
        }
        return column;
    }

    private List<FilterOperator> operators(FilterRule rule, ShapedField field) {
        List<FilterOperator> fitting = fitting(columns.get(field.column()));
        List<FilterOperator> unfit = rule.operators().stream()
                .filter(operator -> !fitting.contains(operator))
                .toList();
        if (!unfit.isEmpty()) {
            findings.add(
                    Code.FILTER_UNFIT,
                    rule.place(),
                    "The field '" + rule.column() + "' cannot be compared by " + labels(unfit) + ".",
                    "Use some of: " + labels(fitting) + ".");
            return List.of();
        }
        return rule.operators().isEmpty()
                ? fitting.stream()
                        .filter(operator -> operator != FilterOperator.NULL || field.nullable())
                        .toList()
                : rule.operators();
    }

    private static String labels(List<FilterOperator> operators) {
        return String.join(", ", operators.stream().map(FilterOperator::label).toList());
    }

    private static List<FilterOperator> fitting(Field column) {
        if (column.members() != Field.Members.NONE) {
            return OF_IDENTITY;
        }
        return switch (column.type()) {
            case STRING -> EVERY;
            case INTEGER, DECIMAL, FLOAT, BITS, DATE, TIME, LOCAL_DATE_TIME, MOMENT -> OF_ORDER;
            case BOOLEAN -> OF_FLAG;
            case BINARY -> OF_IDENTITY;
            case JSON, GEOMETRY -> OF_PRESENCE;
        };
    }

    private Filter filter(FilterRule rule, ShapedField field, FilterOperator operator, @Nullable String inside) {
        Field column = columns.get(field.column());
        ParameterType type = operator == FilterOperator.NULL ? ParameterType.BOOLEAN : type(column.type());
        Constraints constraints = operator == FilterOperator.NULL ? Constraints.NONE : constraints(field);
        boolean list = operator == FilterOperator.IN;
        String name = field.name() + "[" + operator.label() + "]";
        ParameterDefinition parameter = new ParameterDefinition(
                name,
                name,
                rule.place(),
                In.QUERY,
                list ? ParameterType.ARRAY : type,
                true,
                false,
                false,
                null,
                null,
                operator == FilterOperator.NULL ? null : field.example(),
                list ? Constraints.NONE : constraints,
                list ? new ListRule(type, constraints, 1, MOST_ITEMS, false, true) : null,
                null);
        return new Filter(
                field.name(),
                operator,
                comparison(column),
                Filters.around(statement.dialect(), column.name()),
                inside,
                parameter);
    }

    /** The values of an enum are told beforehand; a set's are put together of them. */
    private Constraints constraints(ShapedField field) {
        return columns.get(field.column()).members() != Field.Members.ONE
                        || field.members().isEmpty()
                ? Constraints.NONE
                : new Constraints(null, null, null, null, null, null, null, null, field.members());
    }

    private Comparison comparison(Field column) {
        return switch (column.type()) {
            case BOOLEAN -> Comparison.FLAG;
            case FLOAT -> isSingle(column) ? Comparison.SINGLE : Comparison.VALUE;
            case INTEGER, DECIMAL, BITS, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, JSON, BINARY, GEOMETRY ->
                Comparison.VALUE;
        };
    }

    private boolean isSingle(Field column) {
        Field.Origin origin = column.origin();
        return origin != null
                && contents != null
                && contents.relation(origin.schema(), origin.table())
                        .flatMap(relation -> relation.column(origin.column()))
                        .map(found -> isSingle(found.type()))
                        .orElse(false);
    }

    private static boolean isSingle(ColumnType type) {
        return type.base().equals("float");
    }

    private static ParameterType type(FieldType type) {
        return switch (type) {
            case INTEGER, BITS -> ParameterType.INTEGER;
            case DECIMAL, FLOAT -> ParameterType.NUMBER;
            case BOOLEAN -> ParameterType.BOOLEAN;
            case STRING, JSON, GEOMETRY -> ParameterType.STRING;
            case DATE -> ParameterType.DATE;
            case TIME -> ParameterType.TIME;
            case LOCAL_DATE_TIME -> ParameterType.DATE_TIME_LOCAL;
            case MOMENT -> ParameterType.DATE_TIME;
            case BINARY -> ParameterType.BYTE;
        };
    }
}
