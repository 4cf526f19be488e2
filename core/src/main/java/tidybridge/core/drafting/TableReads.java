package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ForeignKey;
import tidybridge.core.text.PlainName;
import tidybridge.core.text.Written;

/** The operations that read rows of a table or view. */
final class TableReads {

    private final TableShape table;

    TableReads(TableShape table) {
        this.table = table;
    }

    private String aboutAll() {
        return table.relation.about().isBlank() || table.relation.about().startsWith("broken: ")
                ? "Rows of " + table.relation.name()
                : ColumnNames.oneLine(table.relation.about());
    }

    private Written.Collector collection(String file, String about, Written.Collector parameters, List<String> fixed) {
        List<Column> indexed = indexed().stream()
                .filter(column -> fixed.stream().noneMatch(column.name()::equalsIgnoreCase))
                .toList();
        Written.Collector operation =
                new Written.Collector().put("about", about).put("sql", file).put("answer", "rows");
        table.fields(operation);
        operation.put(
                "order",
                Written.texts(
                        table.names.of(table.key.stream().map(Column::name).toList())));
        List<String> sortable = indexed.stream()
                .filter(column -> column.type().fieldType().fitsOrder() && !column.equals(table.key.getFirst()))
                .map(column -> table.names.of(column.name()))
                .toList();
        if (!sortable.isEmpty()) {
            operation.put("sort", Written.texts(sortable));
        }
        List<Written> filters =
                indexed.stream().map(this::filter).flatMap(Optional::stream).toList();
        if (!filters.isEmpty()) {
            operation.put("filter", new Written.Items(filters));
        }
        if (!parameters.isEmpty()) {
            operation.put("parameters", parameters.keys());
        }
        return operation;
    }

    /** The columns that an index begins with, which serve callers' conditions. */
    private List<Column> indexed() {
        return table.columns.stream()
                .filter(column -> table.relation.indexes().stream()
                        .anyMatch(index ->
                                !index.ofWords() && index.columns().getFirst().equalsIgnoreCase(column.name())))
                .toList();
    }

    private Optional<Written> filter(Column column) {
        List<String> operators = switch (column.type().fieldType()) {
            case INTEGER, DECIMAL, DATE, TIME, LOCAL_DATE_TIME, MOMENT -> List.of("eq", "in", "gte", "lte");
            case STRING ->
                column.type().members().isEmpty() && !column.type().base().equals("uuid")
                        ? List.of("eq", "in", "starts")
                        : List.of("eq", "in");
            case BOOLEAN -> List.of("eq");
            case FLOAT, BITS, JSON, BINARY, GEOMETRY -> List.of();
        };
        return operators.isEmpty()
                ? Optional.empty()
                : Optional.of(new Written.Collector()
                        .put(
                                table.names.of(column.name()),
                                operators.size() == 1 ? Written.text(operators.getFirst()) : Written.texts(operators))
                        .keys());
    }

    /** All rows, in pages. */
    void list() {
        String sql = table.query();
        String file = table.drafting.keep(table.segment + "-list", sql);
        table.add("/" + table.segment, "get", collection(file, aboutAll(), new Written.Collector(), List.of()));
    }

    /**
     * One row by its key.
     *
     * @param tagged whether changes compare what they have seen
     * @return the statement's file
     */
    String row(boolean tagged) {
        String file = table.rowFile();
        Written.Collector operation = new Written.Collector()
                .put("about", "One row of " + table.relation.name())
                .put("sql", file)
                .put("answer", "row");
        if (tagged) {
            operation.put("tag", "representation");
        }
        table.fields(operation);
        table.add(
                table.rowPath(),
                "get",
                operation.put("parameters", table.keyParameters().keys()));
        return file;
    }

    /** The rows that refer to one row of another table. */
    void under(TableShape parent, ForeignKey foreign) {
        String last = table.drafting.has(parent.rowPath() + "/" + table.segment, "get")
                ? table.segment + "-by-" + PlainName.of(foreign.columns().getFirst(), "-")
                : table.segment;
        Written.Collector parameters = new Written.Collector();
        List<String> conditions = new ArrayList<>();
        for (int i = 0; i < foreign.columns().size(); i++) {
            String target = foreign.targets().get(i);
            String name = parent.names.of(
                    parent.relation.column(target).map(Column::name).orElse(target));
            conditions.add(table.asked(foreign.columns().get(i)) + " = :" + name);
        }
        parent.key.forEach(column -> parameters.put(
                parent.names.of(column.name()),
                parent.parameter(column, "path", false).keys()));
        String sql = table.query() + "where " + String.join("\n  and ", conditions) + "\n";
        String about = "Rows of " + table.relation.name() + " that refer to a row of " + parent.relation.name();
        String file = table.drafting.keep(last + "-of-" + parent.segment, sql);
        table.add(parent.rowPath() + "/" + last, "get", collection(file, about, parameters, foreign.columns()));
    }
}
