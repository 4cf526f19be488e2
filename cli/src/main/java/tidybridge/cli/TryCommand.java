package tidybridge.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import tidybridge.core.definition.Workspace;
import tidybridge.core.text.Nearest;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy try moorings/v1 GET /berths from=2031-05-01 until=2031-05-04} */
@Command(
        name = "try",
        mixinStandardHelpOptions = true,
        description = {
            "Run an operation of the workspace's text, unpublished, against its source.",
            "Shows the statement, how the database reads its tables, the answer, and the findings."
        },
        footer = {
            "",
            "Exit code: 0 when the answer is a 200, 1 when not.",
            "",
            "Examples:",
            "  ./tidy try moorings/v1 GET /berths from=2031-05-01 until=2031-05-04 --folder demo/workspace",
            "  ./tidy try moorings/v1 GET /berths/17 --show-values",
            "  ./tidy try moorings/v1 POST /berths/search basins='Heron Pool,Alder Basin' vessel/length_m=12"
        })
final class TryCommand implements Callable<Integer> {

    private static final int SHOWN_ROWS = 20;

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    @Parameters(index = "0", paramLabel = "MODULE", description = "Name and major version, such as moorings/v1.")
    @SuppressWarnings("NullAway.Init")
    private String module;

    @Parameters(index = "1", paramLabel = "METHOD", description = "GET or POST")
    @SuppressWarnings("NullAway.Init")
    private String method;

    @Parameters(index = "2", paramLabel = "PATH", description = "With values in the place of placeholders: /berths/17.")
    @SuppressWarnings("NullAway.Init")
    private String path;

    @Parameters(
            index = "3..*",
            paramLabel = "NAME=VALUE",
            description = "Inputs, wherever each is taken from; lists with commas.")
    private List<String> pairs = new ArrayList<>();

    @Option(
            names = "--folder",
            paramLabel = "FOLDER",
            description = "The workspace; the current folder, or demo/workspace, unless given.")
    private Optional<Path> folder = Optional.empty();

    @Option(names = "--show-values", description = "Show the values that were bound.")
    private boolean showValues;

    @Option(
            names = "--privilege",
            paramLabel = "NAME",
            description = "A privilege the caller holds, for masked fields; may be repeated.")
    private List<String> privileges = new ArrayList<>();

    @Option(names = "--json", description = "Print the service's answer as it is.")
    private boolean json;

    @Override
    public Integer call() {
        PrintWriter out = spec.commandLine().getOut();
        Path workspace = folder.orElseGet(TryCommand::usualFolder);
        CheckedWorkspace checked = CheckedWorkspace.read(workspace);
        JsonNode trial = Service.json(Service.expectSuccess(options.open().post("/desk/trials", request(checked))));
        int status = trial.path("answer").path("status").asInt();
        if (json) {
            out.println(trial.toPrettyString());
            return status / 100 == 2 ? 0 : 1;
        }
        printStatement(trial.path("statement"), out);
        printAnswer(trial, out);
        new FindingPrinter(workspace, out)
                .print(trial.path("findings")
                        .valueStream()
                        .map(RemoteFinding::read)
                        .filter(finding -> !finding.isAccepted())
                        .toList());
        if (status == 0 && !trial.has("label")) {
            throw CommandFailure.refused(module + " has no operation " + method.toUpperCase(Locale.ROOT) + " " + path
                    + "; './tidy check' reads its text.");
        }
        return status / 100 == 2 ? 0 : 1;
    }

    private static Path usualFolder() {
        Path here = Path.of("");
        return here.resolve("workspace.yaml").toFile().isFile() ? here.toAbsolutePath() : Path.of("demo", "workspace");
    }

    private Map<String, Object> request(CheckedWorkspace checked) {
        Map<String, String> inputs = new LinkedHashMap<>();
        for (String pair : pairs) {
            int equals = pair.indexOf('=');
            if (equals < 1) {
                throw CommandFailure.mistyped("'" + pair + "' is no input; write it as name=value.");
            }
            inputs.put(pair.substring(0, equals), pair.substring(equals + 1));
        }
        return Map.of(
                "module",
                CheckedWorkspace.text(chosen(checked)),
                "method",
                method.toUpperCase(Locale.ROOT),
                "path",
                path,
                "inputs",
                inputs,
                "privileges",
                privileges,
                "showValues",
                showValues);
    }

    private Workspace.Module chosen(CheckedWorkspace checked) {
        List<String> known =
                checked.modules().stream().map(TryCommand::identity).toList();
        int index = known.indexOf(module);
        if (index < 0) {
            String all = known.isEmpty() ? "no module that can be read" : String.join(", ", known);
            throw CommandFailure.refused("The workspace has no module '" + module + "'." + Nearest.hint(module, known)
                    + " It has " + all + ".");
        }
        return checked.modules().get(index);
    }

    private static String identity(Workspace.Module module) {
        return module.definition().name() + "/v" + module.definition().version().major();
    }

    private static void heading(String text, PrintWriter out) {
        out.println(Ansi.AUTO.string("@|bold " + text + "|@"));
    }

    private void printStatement(JsonNode statement, PrintWriter out) {
        if (statement.isMissingNode() || statement.isNull()) {
            return;
        }
        heading("Statement", out);
        out.println("  " + statement.path("sql").asString());
        out.println();
        if (statement.path("values").size() > 0) {
            heading("Bound", out);
            statement
                    .path("values")
                    .forEach(value -> out.println("  "
                            + value.path("name").asString() + "  "
                            + value.path("type").asString()
                            + (showValues ? "  " + shown(value.path("value")) : "")));
            out.println();
        }
        if (statement.path("plan").size() > 0) {
            heading("Plan", out);
            statement.path("plan").forEach(line -> out.println("  " + line.asString()));
            out.println();
        }
    }

    private static String shown(JsonNode value) {
        return value.isString() ? value.asString() : "null";
    }

    private static void printAnswer(JsonNode trial, PrintWriter out) {
        JsonNode answer = trial.path("answer");
        if (answer.isMissingNode() || answer.isNull()) {
            return;
        }
        heading(
                "Answer: " + answer.path("status").asInt() + " in "
                        + answer.path("millis").asInt() + " ms, compiled in "
                        + trial.path("compileMillis").asInt() + " ms",
                out);
        if (answer.path("trouble").isString()) {
            out.println("  The database said: " + answer.path("trouble").asString());
        }
        printBody(answer.path("body").asString(), out);
        if (answer.path("cut").asBoolean()) {
            out.println("  It is longer; this is its beginning.");
        }
        out.println();
    }

    private static void printBody(String body, PrintWriter out) {
        try {
            JsonNode parsed = Service.parse(body);
            JsonNode data = parsed.path("data");
            if (data.isArray()) {
                printRows(data, out);
            } else {
                parsed.toPrettyString().lines().forEach(line -> out.println("  " + line));
            }
        } catch (JacksonException e) {
            body.lines().limit(SHOWN_ROWS).forEach(line -> out.println("  " + line));
        }
    }

    private static void printRows(JsonNode data, PrintWriter out) {
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
