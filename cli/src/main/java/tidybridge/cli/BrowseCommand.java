package tidybridge.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tidybridge.core.text.Nearest;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy source browse waterways berth} */
@Command(
        name = "browse",
        description = "Show what a source holds; with an object, its columns, keys and first rows.",
        footer = {
            "",
            "Examples:",
            "  ./tidy source browse waterways",
            "  ./tidy source browse waterways --find pass",
            "  ./tidy source browse waterways berth",
            "  ./tidy source browse waterways berth --statement > berth.sql"
        })
final class BrowseCommand extends ServiceCommand {

    private static final int SAMPLE_ROWS = 5;
    private static final int MOST_NAMES = 8;
    private static final int LONGEST_COMMENT = 56;
    private static final String CUT = " ...";

    @Parameters(index = "0", paramLabel = "NAME", description = "The source's name.")
    @SuppressWarnings("NullAway.Init")
    private String name;

    @Parameters(index = "1", arity = "0..1", paramLabel = "OBJECT", description = "A table, view or routine.")
    private @Nullable String object;

    @Option(
            names = "--find",
            paramLabel = "TEXT",
            description = "Only what has this text in its name, a column's, or its comment.")
    private @Nullable String find;

    @Option(names = "--refresh", description = "Read the database's catalog again first.")
    private boolean refresh;

    @Option(names = "--statement", description = "Print only a statement to begin with.")
    private boolean statement;

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        PrintWriter out = out();
        Service service = service();
        String base = "/desk/sources/" + Texts.encoded(name);
        JsonNode contents = refresh ? posted(base + "/refresh", Map.of()) : service.desk(base + "/contents");
        if (object == null) {
            if (statement) {
                throw CommandFailure.mistyped("--statement needs an object; name a table, view or routine.");
            }
            printAll(contents, out);
            return 0;
        }
        JsonNode relation = named(contents.path("relations"), object);
        JsonNode found = relation == null ? named(contents.path("routines"), object) : relation;
        if (found == null) {
            throw CommandFailure.refused("The source '" + name + "' holds no table, view or routine '" + object + "'."
                    + alike(contents, object) + " './tidy source browse " + name
                    + "' lists all, with --refresh read anew.");
        }
        if (json.print(found, out)) {
            return 0;
        }
        if (statement) {
            out.print(found.path("statement").asString());
        } else if (relation == null) {
            printRoutine(found, out);
        } else {
            printRelation(relation, out);
            if (relation.path("about").asString().startsWith("broken: ")) {
                out.println("It cannot be read until it is mended.");
                return 0;
            }
            printSample(
                    service.desk(base + "/contents/"
                            + Texts.encoded(relation.path("name").asString()) + "/sample?rows=" + SAMPLE_ROWS),
                    out);
        }
        return 0;
    }

    /** By the very name, then without case, then by the only name that begins so. */
    private static @Nullable JsonNode named(JsonNode list, String name) {
        JsonNode alike = null;
        List<JsonNode> beginning = new ArrayList<>();
        for (JsonNode item : list) {
            String known = item.path("name").asString();
            if (known.equals(name)) {
                return item;
            }
            alike = alike == null && known.equalsIgnoreCase(name) ? item : alike;
            if (known.toLowerCase(Locale.ROOT).startsWith(name.toLowerCase(Locale.ROOT))) {
                beginning.add(item);
            }
        }
        return alike == null && beginning.size() == 1 ? beginning.getFirst() : alike;
    }

    /** Some names that the one that was given could mean. */
    private static String alike(JsonNode contents, String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        List<String> names = Stream.concat(
                        contents.path("relations").valueStream(),
                        contents.path("routines").valueStream())
                .map(item -> item.path("name").asString())
                .toList();
        List<String> containing = names.stream()
                .filter(known -> known.toLowerCase(Locale.ROOT).contains(lower))
                .limit(MOST_NAMES)
                .toList();
        return containing.isEmpty()
                ? Nearest.hint(name, names)
                : " Names with that in them: " + String.join(", ", containing) + ".";
    }

    private boolean matches(JsonNode item) {
        return find == null || item.toString().toLowerCase(Locale.ROOT).contains(find.toLowerCase(Locale.ROOT));
    }

    private void printAll(JsonNode contents, PrintWriter out) {
        if (json.print(contents, out)) {
            return;
        }
        List<List<String>> rows = new ArrayList<>();
        contents.path("relations")
                .valueStream()
                .filter(this::matches)
                .forEach(relation -> rows.add(List.of(
                        relation.path("name").asString(),
                        relation.path("kind").asString(),
                        relation.has("rows") ? "about " + relation.path("rows").asLong() : "",
                        count(relation.path("columns").size(), "column"),
                        cut(relation.path("about").asString()))));
        contents.path("routines")
                .valueStream()
                .filter(this::matches)
                .forEach(routine -> rows.add(List.of(
                        routine.path("name").asString(),
                        routine.path("kind").asString(),
                        "",
                        count(routine.path("parameters").size(), "parameter"),
                        cut(routine.path("about").asString()))));
        if (rows.isEmpty()) {
            out.println(find == null ? "The source holds nothing that its user may see." : "Nothing matches.");
            return;
        }
        out.print(Table.draw(
                List.of("Name", "Kind", "Rows", "Size", "About"), List.of(false, false, true, false, false), rows));
        out.println();
        out.println("Schema " + contents.path("schema").asString() + ", read at "
                + contents.path("readAt").asString() + "; --refresh reads it anew.");
        if (rows.stream().anyMatch(row -> row.getLast().endsWith(CUT))) {
            out.println("Long comments are cut; './tidy source browse " + name + " OBJECT' prints all of one.");
        }
    }

    /** A comment that does not make the table wider than a terminal. */
    private static String cut(String comment) {
        String line = comment.replaceAll("\\s+", " ").strip();
        return line.length() <= LONGEST_COMMENT ? line : line.substring(0, LONGEST_COMMENT) + CUT;
    }

    private static String count(int number, String noun) {
        return number + " " + noun + (number == 1 ? "" : "s");
    }

    private static void printRelation(JsonNode relation, PrintWriter out) {
        out.println(relation.path("name").asString() + ", a "
                + relation.path("kind").asString()
                + (relation.has("rows") ? " of about " + relation.path("rows").asLong() + " rows" : ""));
        if (!relation.path("about").asString().isEmpty()) {
            out.println(relation.path("about").asString());
        }
        out.println();
        List<List<String>> columns = new ArrayList<>();
        for (JsonNode column : relation.path("columns")) {
            columns.add(List.of(
                    column.path("name").asString(),
                    column.path("type").asString(),
                    column.path("nullable").asBoolean() ? "may be null" : "",
                    column.path("numbered").asBoolean()
                            ? "counted up"
                            : column.path("generated").asBoolean()
                                    ? "generated"
                                    : column.path("defaultText").asString(""),
                    cut(column.path("about").asString())));
        }
        out.print(Table.draw(List.of("Column", "Type", "Null", "Default", "About"), SourceCommand.left(5), columns));
        out.println();
        for (JsonNode column : relation.path("columns")) {
            if (cut(column.path("about").asString()).endsWith(CUT)) {
                out.println(column.path("name").asString() + ": "
                        + column.path("about").asString());
            }
        }
        for (JsonNode index : relation.path("indexes")) {
            String kind = index.path("primary").asBoolean()
                    ? "primary key"
                    : (index.path("unique").asBoolean() ? "unique key " : "index ")
                            + index.path("name").asString();
            out.println(kind + " (" + list(index.path("columns")) + ")");
        }
        for (JsonNode key : relation.path("foreignKeys")) {
            out.println("(" + list(key.path("columns")) + ") stands in "
                    + key.path("target").asString() + " (" + list(key.path("targets")) + ")");
        }
        out.println();
    }

    private static String list(JsonNode names) {
        return String.join(", ", names.valueStream().map(JsonNode::asString).toList());
    }

    private static void printSample(JsonNode sample, PrintWriter out) {
        List<String> head =
                sample.path("columns").valueStream().map(JsonNode::asString).toList();
        List<List<String>> rows = sample.path("rows")
                .valueStream()
                .map(row -> row.valueStream()
                        .map(value -> value.isNull() ? "" : value.asString())
                        .toList())
                .toList();
        if (rows.isEmpty()) {
            out.println("It is empty.");
        } else {
            out.print(Table.draw(head, SourceCommand.left(head.size()), rows));
        }
    }

    private static void printRoutine(JsonNode routine, PrintWriter out) {
        out.println(routine.path("name").asString() + ", a "
                + routine.path("kind").asString()
                + (routine.has("returns")
                        ? " that returns " + routine.path("returns").asString()
                        : "")
                + ", " + routine.path("access").asString().replace('-', ' '));
        out.println();
        List<List<String>> rows = routine.path("parameters")
                .valueStream()
                .map(parameter -> List.of(
                        parameter.path("name").asString(),
                        parameter.path("mode").asString(),
                        parameter.path("type").asString()))
                .toList();
        if (!rows.isEmpty()) {
            out.print(Table.draw(List.of("Parameter", "Way", "Type"), SourceCommand.left(3), rows));
            out.println();
        }
        out.print(routine.path("statement").asString());
    }
}
