package tidybridge.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy source list|test|browse|reload} */
@Command(
        name = "source",
        description = "The databases of this environment: whether they can be reached, and what they hold.",
        subcommands = {
            SourceCommand.ListCommand.class,
            SourceCommand.TestCommand.class,
            BrowseCommand.class,
            SourceCommand.ReloadCommand.class
        },
        footer = {"", "Examples:", "  ./tidy source test waterways", "  ./tidy source browse waterways berth"})
final class SourceCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    static List<Boolean> left(int columns) {
        return Collections.nCopies(columns, false);
    }

    /** {@code ./tidy source list} */
    @Command(
            name = "list",
            description = "List the sources the service uses.",
            footer = {"", "Example:", "  ./tidy source list --json"})
    static final class ListCommand extends ServiceCommand {

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            PrintWriter out = out();
            JsonNode answer = service().desk("/desk/sources");
            if (json.print(answer, out)) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            for (JsonNode source : answer.path("sources")) {
                rows.add(List.of(
                        source.path("name").asString(),
                        source.path("user").asString() + " at "
                                + source.path("host").asString() + ":"
                                + source.path("port").asInt() + "/"
                                + source.path("schema").asString(),
                        source.path("readOnly").asBoolean() ? "read only" : "may write",
                        source.path("transport").asString(),
                        source.path("busy").asInt() + " of "
                                + source.path("connections").asInt(),
                        source.path("about").asString()));
            }
            if (rows.isEmpty()) {
                out.println("The service has no sources yet; define one in the workspace.yaml it reads.");
                return 0;
            }
            out.print(
                    Table.draw(List.of("Source", "Address", "Sessions", "Transport", "Busy", "About"), left(6), rows));
            return 0;
        }
    }

    /** {@code ./tidy source test waterways} */
    @Command(
            name = "test",
            description =
                    "Try to reach a source step by step, with its definition as it is written now: name, port, TLS, credentials, schema, privilege.",
            footer = {
                "",
                "Exit code: 0 when every step passed, 1 when not.",
                "",
                "Example:",
                "  ./tidy source test waterways"
            })
    static final class TestCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "The source's name in the workspace.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            PrintWriter out = out();
            JsonNode answer = posted("/desk/sources/" + Texts.encoded(name) + "/test", Map.of());
            boolean passed = answer.path("passed").asBoolean();
            if (json.print(answer, out)) {
                return passed ? 0 : 1;
            }
            out.println(answer.path("name").asString() + ": "
                    + answer.path("address").asString());
            for (JsonNode step : answer.path("steps")) {
                boolean good = step.path("passed").asBoolean();
                String mark = good ? "@|green passed|@" : "@|bold,red failed|@";
                out.println(Ansi.AUTO.string("  " + mark) + "  "
                        + String.format("%-12s", step.path("step").asString()) + " "
                        + step.path("detail").asString() + " ("
                        + step.path("millis").asInt() + " ms)");
            }
            out.println(passed ? "The source can be used." : "The source cannot be used yet.");
            return passed ? 0 : 1;
        }
    }

    /** {@code ./tidy source reload} */
    @Command(
            name = "reload",
            description = "Let the service read the definitions of its sources again and use them.",
            footer = {"", "Example:", "  ./tidy source reload"})
    static final class ReloadCommand extends ServiceCommand {

        @Override
        public Integer call() {
            List<String> changed = posted("/desk/sources/reload", Map.of())
                    .path("changed")
                    .valueStream()
                    .map(JsonNode::asString)
                    .toList();
            out().println(changed.isEmpty() ? "Nothing has changed." : "Changed: " + String.join(", ", changed) + ".");
            return 0;
        }
    }
}
