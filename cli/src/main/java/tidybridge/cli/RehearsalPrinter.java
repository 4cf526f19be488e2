package tidybridge.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import picocli.CommandLine.Help.Ansi;
import tools.jackson.databind.JsonNode;

/** Prints what a rehearsed change did before it was undone. */
final class RehearsalPrinter {

    private final PrintWriter out;

    RehearsalPrinter(PrintWriter out) {
        this.out = out;
    }

    /** Prints nothing for what was no rehearsal. */
    void print(JsonNode rehearsal) {
        if (rehearsal.isMissingNode() || rehearsal.isNull()) {
            return;
        }
        if (rehearsal.path("tables").isEmpty()) {
            out.println("No row would be different.");
            out.println();
        }
        rehearsal.path("tables").forEach(this::table);
        rehearsal.path("watched").forEach(this::watched);
        out.println("Rolled back. Its locks were held for "
                + rehearsal.path("heldMillis").asLong() + " ms.");
        rehearsal.path("notes").forEach(note -> out.println("Note: " + note.asString()));
        out.println();
    }

    private void table(JsonNode table) {
        List<String> counts = new ArrayList<>();
        for (String kind : List.of("inserted", "changed", "deleted")) {
            if (table.path(kind).asLong() > 0) {
                counts.add(table.path(kind).asLong() + " " + kind);
            }
        }
        out.println(
                Ansi.AUTO.string("@|bold " + table.path("table").asString() + ": " + String.join(", ", counts) + "|@"));
        List<JsonNode> changed = rows(table, "changed");
        if (!changed.isEmpty()) {
            draw(
                    List.of("Row", "Field", "Before", "After"),
                    changed.stream().flatMap(row -> differences(row).stream()).toList());
        }
        for (String kind : List.of("inserted", "deleted")) {
            List<JsonNode> rows = rows(table, kind);
            if (!rows.isEmpty()) {
                whole(rows, kind);
            }
        }
        long all = table.path("inserted").asLong()
                + table.path("changed").asLong()
                + table.path("deleted").asLong();
        if (all > table.path("rows").size()) {
            out.println("  " + table.path("rows").size() + " of " + all + " rows are shown.");
        }
        out.println();
    }

    private static List<JsonNode> rows(JsonNode table, String kind) {
        return table.path("rows")
                .valueStream()
                .filter(row -> row.path("kind").asString().equals(kind))
                .toList();
    }

    private static List<List<String>> differences(JsonNode row) {
        String key = row.path("fields")
                .valueStream()
                .filter(field -> field.path("key").asBoolean())
                .map(field -> text(field.path("before")))
                .collect(Collectors.joining(" "));
        return row.path("fields")
                .valueStream()
                .filter(field -> !field.path("before").equals(field.path("after")))
                .map(field -> List.of(
                        key, field.path("name").asString(), text(field.path("before")), text(field.path("after"))))
                .toList();
    }

    private void whole(List<JsonNode> rows, String kind) {
        String side = kind.equals("inserted") ? "after" : "before";
        List<String> names = rows.getFirst()
                .path("fields")
                .valueStream()
                .map(field -> field.path("name").asString())
                .toList();
        List<String> header = new ArrayList<>(names);
        header.addFirst("");
        draw(
                header,
                rows.stream()
                        .map(row -> {
                            List<String> cells = new ArrayList<>();
                            cells.add(kind.equals("inserted") ? "new" : "gone");
                            row.path("fields").forEach(field -> cells.add(text(field.path(side))));
                            return cells;
                        })
                        .toList());
    }

    private void watched(JsonNode watched) {
        out.println(Ansi.AUTO.string("@|bold Watched:|@ ") + watched.path("sql").asString());
        List<String> header = new ArrayList<>(List.of(""));
        watched.path("columns").forEach(column -> header.add(column.asString()));
        List<List<String>> rows = new ArrayList<>();
        for (String side : List.of("before", "after")) {
            watched.path(side).forEach(row -> {
                List<String> cells = new ArrayList<>(List.of(side));
                row.forEach(value -> cells.add(text(value)));
                rows.add(cells);
            });
        }
        draw(header, rows);
        out.println();
    }

    private void draw(List<String> header, List<List<String>> rows) {
        List<Boolean> left = header.stream().map(name -> false).toList();
        Table.draw(header, left, rows).lines().forEach(line -> out.println("  " + line));
    }

    private static String text(JsonNode value) {
        return value.isNull() || value.isMissingNode() ? "null" : value.asString();
    }
}
