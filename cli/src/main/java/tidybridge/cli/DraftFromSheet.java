package tidybridge.cli;

import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy draft from sheet waterways berths.csv} */
@Command(
        name = "sheet",
        description = {
            "Make a table and the text of a module from a sheet: a CSV file, or a workbook (.xlsx).",
            "The types of its columns are told from all rows, and the statement that makes the table is shown. Nothing is done before you say --load."
        },
        footer = {
            "",
            "--load puts the rows into the table, all or none; --create makes the table first. Both need a source that is not read-only,",
            "and a user of it who may. What could mean two things stays a text: 007, 1.234,50, 01.05.2031.",
            "",
            "Examples:",
            "  ./tidy draft from sheet waterways moorings.csv                        # columns, types, bad rows, 'create table'",
            "  ./tidy draft from sheet waterways moorings.csv --create --load --public --push",
            "  ./tidy draft from sheet waterways moorings.xlsx --sheet 2031 --table mooring_plan --type 'built=varchar(4)'"
        })
final class DraftFromSheet extends DraftFromCommand {

    @Parameters(index = "0", paramLabel = "SOURCE", description = "The source that gets the table.")
    @SuppressWarnings("NullAway.Init")
    private String source;

    @Parameters(index = "1", paramLabel = "FILE", description = "The CSV file or workbook.")
    @SuppressWarnings("NullAway.Init")
    private Path file;

    @Option(names = "--table", paramLabel = "NAME", description = "The table; the file's name unless given.")
    private @Nullable String table;

    @Option(names = "--create", description = "Make the table if it is not there.")
    private boolean create;

    @Option(names = "--load", description = "Put the rows into the table.")
    private boolean load;

    @Option(
            names = "--separator",
            paramLabel = "CHARACTER",
            description = "Of a CSV file; told from its first line unless given.")
    private @Nullable String separator;

    @Option(
            names = "--encoding",
            paramLabel = "NAME",
            description = "Of a CSV file, such as windows-1252; UTF-8 unless given.")
    private @Nullable String encoding;

    @Option(names = "--sheet", paramLabel = "NAME", description = "Of a workbook; the first unless given.")
    private @Nullable String sheet;

    @Option(
            names = "--type",
            paramLabel = "COLUMN=TYPE",
            description = "The type of a column, where it is to be another. May be repeated.")
    private List<String> types = new ArrayList<>();

    @Override
    public Integer call() {
        if (!Files.isRegularFile(file)) {
            throw CommandFailure.refused("The file " + file + " cannot be read.");
        }
        if (create && !load) {
            throw CommandFailure.mistyped(
                    "--create makes the table for --load; say both, or run the statement yourself.");
        }
        JsonNode look = Service.json(service().upload("/desk/sheets/looks" + query(), file));
        boolean bad = !look.path("bad").isEmpty();
        boolean printed = (bad || !load) && printedForPrograms(look);
        if (!printed && !isForPrograms()) {
            print(look);
        }
        if (bad) {
            throw CommandFailure.refused(
                    "Some rows cannot be taken, so that nothing was done; mend them and try again.");
        }
        if (!load) {
            err().println(
                            "Nothing was done; --create --load makes the table and puts the rows into it, --load only the latter.");
            return 0;
        }
        load(look.path("rows").asLong());
        return make(source, name(), Map.of("tables", List.of(Map.of("name", name()))));
    }

    private String name() {
        if (table != null) {
            return table;
        }
        String plain = file.getFileName()
                .toString()
                .replaceFirst("\\.[A-Za-z0-9]+$", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "_")
                .replaceAll("^_+|_+$", "");
        return plain.matches("[a-z].*") ? plain : "sheet_" + plain;
    }

    private String query() {
        StringBuilder query = new StringBuilder("?source=" + Texts.encoded(source) + "&table=" + Texts.encoded(name()));
        add(query, "separator", separator);
        add(query, "encoding", encoding);
        add(query, "sheet", sheet);
        for (String type : types) {
            int equals = type.indexOf('=');
            if (equals < 1) {
                throw CommandFailure.mistyped("Write '" + type + "' as --type 'built=varchar(4)'.");
            }
            add(query, "type", type.substring(0, equals) + ":" + type.substring(equals + 1));
        }
        return query.toString();
    }

    private static void add(StringBuilder query, String name, @Nullable String value) {
        if (value != null) {
            query.append('&').append(name).append('=').append(Texts.encoded(value));
        }
    }

    private void print(JsonNode look) {
        PrintWriter out = out();
        List<List<String>> rows = new ArrayList<>();
        for (JsonNode column : look.path("columns")) {
            List<String> examples = new ArrayList<>();
            column.path("examples").forEach(example -> examples.add(example.asString()));
            rows.add(List.of(
                    column.path("name").asString(),
                    column.path("type").asString(),
                    column.path("nullable").asBoolean() ? "yes" : "",
                    String.join(", ", examples)));
        }
        out.print(
                Table.draw(List.of("Column", "Type", "Empty", "Examples"), List.of(false, false, false, false), rows));
        look.path("columns")
                .forEach(column -> column.path("notes")
                        .forEach(note -> out.println(Ansi.AUTO.string("@|yellow note|@  ")
                                + column.path("name").asString() + ": " + note.asString())));
        out.println();
        long count = look.path("rows").asLong();
        out.println((count == 1 ? "1 row" : count + " rows")
                + (look.path("key").isString()
                        ? ", told apart by " + look.path("key").asString()
                        : ", numbered because no column tells them apart"));
        printBad(look);
        if (!look.path("there").asBoolean()) {
            out.println();
            out.print(look.path("createTable").asString());
        }
        out.println();
    }

    private void printBad(JsonNode outcome) {
        outcome.path("bad")
                .forEach(bad -> out().println(Ansi.AUTO.string("@|red bad row|@  line ")
                        + bad.path("line").asLong() + ": " + bad.path("reason").asString()));
        long more = outcome.path("moreBad").asLong();
        if (more > 0) {
            out().println("and " + more + " more");
        }
    }

    private void load(long rows) {
        ExportProgress progress = new ExportProgress(err(), System.console() != null, rows);
        JsonNode outcome = service()
                .uploadInLines(
                        "/desk/sheets/loads" + query() + "&create=" + create,
                        file,
                        line -> progress.moved(line.path("rows").asLong(), 0));
        if (!outcome.path("kept").asBoolean()) {
            printBad(outcome);
            String trouble = outcome.path("trouble").asString("");
            throw CommandFailure.refused(
                    trouble.isEmpty() ? "Some rows were refused, so that none was kept." : trouble);
        }
        err().println(outcome.path("rows").asLong() + " rows are in " + name() + ".");
    }
}
