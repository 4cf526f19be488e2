package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.text.Written;

/** The operations that change rows of a table, and what callers are told when it refuses. */
final class TableWrites {

    private static final String WHEN = "   -- when :";

    private final TableShape table;

    TableWrites(TableShape table) {
        this.table = table;
    }

    /** Says who may change, before everything else. */
    private Written.Collector needing(Written.Collector operation) {
        return table.drafting.changing().putAll(operation.keys());
    }

    static boolean isWritable(Column column) {
        return !column.generated() && column.type().fieldType() != FieldType.GEOMETRY;
    }

    private List<Column> changeable() {
        return table.columns.stream()
                .filter(column -> isWritable(column) && !column.numbered() && !table.key.contains(column))
                .toList();
    }

    /** Whether a row has anything that the source's user may change; a note says why not. */
    boolean canChange() {
        if (changeable().isEmpty()) {
            table.note("It has no column beside its key that anybody could change.");
            return false;
        }
        return table.isAllowed("Changing a row", changeSql());
    }

    private String changeSql() {
        List<String> lines = new ArrayList<>();
        for (Column column : changeable()) {
            String name = table.names.of(column.name());
            String start = lines.isEmpty() ? "set " : "  , ";
            lines.add(start + table.names.written(column.name()) + " = :" + name + WHEN + name);
        }
        return "update " + table.named() + "\n" + aligned(lines) + "\nwhere " + table.byKey() + "\n";
    }

    /** Some columns of a row; what is left out stays. */
    void change(String rowFile) {
        Written.Collector parameters = table.keyParameters();
        changeable()
                .forEach(column -> parameters.put(
                        table.names.of(column.name()),
                        table.parameter(column, "body", false).keys()));
        Written.Keys steps = new Written.Collector()
                .put(
                        "changed",
                        new Written.Collector()
                                .put("sql", table.drafting.keep(table.segment + "-change", changeSql()))
                                .keys())
                .put("row", new Written.Collector().put("sql", rowFile).keys())
                .keys();
        Written.Collector operation = new Written.Collector()
                .put("about", "Change a row of " + table.relation.name() + "; what is left out stays")
                .put("steps", steps)
                .put("answer", "row");
        table.fields(operation);
        operation.put("precondition", "required");
        new Refusals(table.relation, table.names::of).put(operation, changeable());
        table.add(table.rowPath(), "patch", needing(operation.put("parameters", parameters.keys())));
    }

    /** Lines whose conditions stand below each other. */
    static String aligned(List<String> lines) {
        int width = lines.stream()
                .filter(line -> line.contains(WHEN))
                .mapToInt(line -> line.indexOf(WHEN))
                .max()
                .orElse(0);
        return lines.stream()
                .map(line ->
                        line.contains(WHEN) ? line.replace(WHEN, " ".repeat(width - line.indexOf(WHEN)) + WHEN) : line)
                .collect(Collectors.joining("\n"));
    }

    /** A new row. */
    void addition(String path) {
        List<Column> given = table.columns.stream()
                .filter(column -> isWritable(column) && !column.numbered())
                .toList();
        Optional<Column> lost = table.relation.columns().stream()
                .filter(column -> isRequired(column) && !given.contains(column))
                .findFirst();
        if (lost.isPresent()) {
            table.drafting.note(
                    table.relation.name(),
                    "A row needs a value for " + lost.get().name() + ", "
                            + (isWritable(lost.get())
                                    ? "which was not chosen"
                                    : "which is no value that a parameter can hold")
                            + ": there is no operation that adds one.");
            return;
        }
        List<Line> lines = lines(given);
        boolean nested = table.showsParents() && table.isAddressable();
        String sql = "insert into " + table.named() + " (\n"
                + aligned(lines.stream().map(Line::column).toList()) + "\n)\nvalues (\n"
                + aligned(lines.stream().map(Line::value).toList()) + "\n)\nreturning "
                + (nested ? table.returnedKey() : table.returned())
                + "\n";
        if (!table.isAllowed("Adding a row", sql)) {
            return;
        }
        Written.Collector parameters = new Written.Collector();
        given.forEach(column -> parameters.put(
                table.names.of(column.name()),
                table.parameter(column, "body", isRequired(column)).keys()));
        Written.Collector operation = new Written.Collector().put("about", "Add a row to " + table.relation.name());
        String file = table.drafting.keep(table.segment + "-add", sql);
        if (nested) {
            operation.put("steps", withRow(file));
        } else {
            operation.put("sql", file);
        }
        operation.put("answer", "row");
        if (table.isAddressable() && table.wants(Deed.READ)) {
            operation.put("location", table.rowPath());
        } else {
            operation.put("status", Written.typed(201));
        }
        table.fields(operation);
        new Refusals(table.relation, table.names::of).put(operation, given);
        if (!parameters.isEmpty()) {
            operation.put("parameters", parameters.keys());
        }
        table.add(path, "post", needing(operation));
    }

    /** An insert cannot answer with other tables' columns; the row is read after it, as everybody reads it. */
    private Written withRow(String file) {
        Written.Collector key = new Written.Collector();
        table.key.forEach(column -> key.put(table.names.of(column.name()), "made." + table.names.of(column.name())));
        return new Written.Collector()
                .put("made", new Written.Collector().put("sql", file).keys())
                .put(
                        "row",
                        new Written.Collector()
                                .put("sql", table.rowFile())
                                .put("with", key.keys())
                                .keys())
                .keys();
    }

    static boolean isRequired(Column column) {
        return !column.nullable() && column.defaultText() == null && !column.generated() && !column.numbered();
    }

    /** A line of the columns of an INSERT and one of its values. */
    private record Line(String column, String value) {}

    /** What is left out keeps its default; one column is there in any case, so that the lists are never empty. */
    private List<Line> lines(List<Column> given) {
        List<Line> lines = new ArrayList<>();
        given.stream().filter(TableWrites::isRequired).forEach(column -> lines.add(line(column, lines.isEmpty(), "")));
        Column anyway = lines.isEmpty() ? anyway(given) : null;
        if (anyway != null) {
            String column = table.names.written(anyway.name());
            String value = given.contains(anyway)
                    ? "coalesce(:" + table.names.of(anyway.name()) + ", default(" + column + "))"
                    : "default";
            lines.add(new Line("  " + column, "  " + value));
        }
        given.stream()
                .filter(column -> !isRequired(column) && !column.equals(anyway))
                .forEach(column -> lines.add(line(column, lines.isEmpty(), WHEN + table.names.of(column.name()))));
        return lines;
    }

    private Line line(Column column, boolean first, String when) {
        String start = first ? "  " : "  , ";
        return new Line(
                start + table.names.written(column.name()) + when, start + ":" + table.names.of(column.name()) + when);
    }

    /** A column that takes its default when nothing is given: one that nobody gives, or one that is never null. */
    private @Nullable Column anyway(List<Column> given) {
        return Stream.concat(
                        table.relation.columns().stream()
                                .filter(column -> !column.generated() && !given.contains(column)),
                        given.stream().sorted(Comparator.comparing(Column::nullable)))
                .findFirst()
                .orElse(null);
    }

    /** A row goes. */
    void remove() {
        String sql = "delete from " + table.named() + "\nwhere " + table.byKey() + "\n";
        if (!table.isAllowed("Removing a row", sql)) {
            return;
        }
        Written.Collector operation = new Written.Collector()
                .put("about", "Remove a row of " + table.relation.name())
                .put("sql", table.drafting.keep(table.segment + "-remove", sql))
                .put("answer", "nothing")
                .put("parameters", table.keyParameters().keys());
        table.add(table.rowPath(), "delete", needing(operation));
    }
}
