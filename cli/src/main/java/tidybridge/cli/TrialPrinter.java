package tidybridge.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Help.Ansi;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/** Prints what became of trying an operation. */
final class TrialPrinter {

    private static final int SHOWN_ROWS = 20;

    private final PrintWriter out;
    private final boolean showValues;

    TrialPrinter(PrintWriter out, boolean showValues) {
        this.out = out;
        this.showValues = showValues;
    }

    void findings(JsonNode trial, Path workspace) {
        new FindingPrinter(workspace, out)
                .print(trial.path("findings")
                        .valueStream()
                        .map(RemoteFinding::read)
                        .filter(finding -> !finding.isAccepted())
                        .toList());
    }

    void heading(String text) {
        out.println(Ansi.AUTO.string("@|bold " + text + "|@"));
    }

    void statement(JsonNode statement) {
        if (statement.isMissingNode() || statement.isNull()) {
            return;
        }
        heading("Statement");
        out.println("  " + statement.path("sql").asString());
        out.println();
        if (statement.path("values").size() > 0) {
            heading("Bound");
            statement
                    .path("values")
                    .forEach(value -> out.println("  "
                            + value.path("name").asString() + "  "
                            + value.path("type").asString()
                            + (showValues ? "  " + shown(value.path("value")) : "")));
            out.println();
        }
        if (statement.path("plan").size() > 0) {
            heading("Plan");
            statement.path("plan").forEach(line -> out.println("  " + line.asString()));
            out.println();
        }
    }

    private static String shown(JsonNode value) {
        return value.isString() ? value.asString() : "null";
    }

    void answer(JsonNode trial) {
        JsonNode answer = trial.path("answer");
        if (answer.isMissingNode() || answer.isNull()) {
            return;
        }
        heading("Answer: " + answer.path("status").asInt() + " in "
                + answer.path("millis").asInt() + " ms, compiled in "
                + trial.path("compileMillis").asInt() + " ms");
        if (answer.path("trouble").isString()) {
            out.println("  The database said: " + answer.path("trouble").asString());
        }
        printBody(answer.path("body").asString());
        if (answer.path("cut").asBoolean()) {
            out.println("  It is longer; this is its beginning.");
        }
        out.println();
    }

    private void printBody(String body) {
        try {
            JsonNode parsed = Service.parse(body);
            JsonNode data = parsed.path("data");
            if (data.isArray()) {
                printRows(data);
            } else {
                parsed.toPrettyString().lines().forEach(line -> out.println("  " + line));
            }
        } catch (JacksonException e) {
            body.lines().limit(SHOWN_ROWS).forEach(line -> out.println("  " + line));
        }
    }

    private void printRows(JsonNode data) {
        if (data.isEmpty()) {
            out.println("  No rows.");
            return;
        }
        List<String> names = List.copyOf(data.get(0).propertyNames());
        List<Boolean> numeric =
                names.stream().map(name -> data.get(0).path(name).isNumber()).toList();
        List<List<String>> rows = data.valueStream()
                .limit(SHOWN_ROWS)
                .map(row -> names.stream().map(name -> cell(row.path(name))).toList())
                .toList();
        Table.draw(names, numeric, rows).lines().forEach(line -> out.println("  " + line));
        out.println("  " + data.size() + (data.size() == 1 ? " row" : " rows")
                + (data.size() > SHOWN_ROWS ? ", the first " + SHOWN_ROWS + " of them shown" : ""));
    }

    private static String cell(JsonNode value) {
        return value.isNull() ? "" : value.isString() ? value.asString() : value.toString();
    }
}
