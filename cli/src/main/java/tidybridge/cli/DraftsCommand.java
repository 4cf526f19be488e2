package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy drafts list|history|restore|drop} */
@Command(
        name = "drafts",
        description = "The texts that are being worked on, on the service.",
        subcommands = {
            DraftsCommand.ListCommand.class,
            DraftsCommand.HistoryOfDraftCommand.class,
            DraftsCommand.RestoreDraftCommand.class,
            DraftsCommand.DropCommand.class
        },
        footer = {
            "",
            "'./tidy push' sends a folder's modules there, './tidy pull' fetches one.",
            "",
            "Examples:",
            "  ./tidy drafts list",
            "  ./tidy drafts history moorings/v1",
            "  ./tidy drafts restore moorings/v1 3"
        })
final class DraftsCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    private static List<String> row(JsonNode draft) {
        String restored = draft.has("restoredFrom")
                ? "as revision " + draft.path("restoredFrom").asInt()
                : "";
        return List.of(
                draft.path("name").asString() + "/v" + draft.path("major").asInt(),
                draft.path("revision").asString(),
                draft.path("changedBy").asString(),
                Texts.moment(draft.path("changedAt"), ""),
                restored);
    }

    /** Prints what a service tells of drafts. */
    abstract static class TableCommand extends ServiceCommand {

        @Mixin
        private final JsonOption json = new JsonOption();

        int print(String path, String nothing) {
            JsonNode answer = service().desk(path);
            if (json.print(answer, out())) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            answer.path("drafts").forEach(draft -> rows.add(row(draft)));
            if (rows.isEmpty()) {
                out().println(nothing);
                return 0;
            }
            out().print(Table.draw(
                    List.of("Draft", "Revision", "Changed by", "Changed (UTC)", "Text"), SourceCommand.left(5), rows));
            return 0;
        }
    }

    /** {@code ./tidy drafts list} */
    @Command(
            name = "list",
            description = "List all drafts.",
            footer = {"", "Example:", "  ./tidy drafts list --json"})
    static final class ListCommand extends TableCommand {

        @Override
        public Integer call() {
            return print("/desk/drafts", "There is no draft; './tidy push' begins one.");
        }
    }

    /** {@code ./tidy drafts history moorings/v1} */
    @Command(
            name = "history",
            description = "List what a draft was after each change, with who and when.",
            footer = {"", "Example:", "  ./tidy drafts history moorings/v1"})
    static final class HistoryOfDraftCommand extends TableCommand {

        @Parameters(paramLabel = "MODULE", description = "The module with its major version, such as moorings/v1.")
        private String module = "";

        @Override
        public Integer call() {
            return print(DraftName.parse(module).path() + "/revisions", "");
        }
    }

    /** {@code ./tidy drafts restore moorings/v1 3} */
    @Command(
            name = "restore",
            description = "Give a draft the text of an earlier revision, as its newest one.",
            footer = {"", "Example:", "  ./tidy drafts restore moorings/v1 3"})
    static final class RestoreDraftCommand extends ServiceCommand {

        @Parameters(
                index = "0",
                paramLabel = "MODULE",
                description = "The module with its major version, such as moorings/v1.")
        private String module = "";

        @Parameters(index = "1", paramLabel = "REVISION", description = "The earlier one.")
        private int revision;

        @Override
        public Integer call() {
            DraftName name = DraftName.parse(module);
            JsonNode draft = changed(service(), "POST", name, "/restored", Map.of("revision", revision));
            out().println(name + " is at revision " + draft.path("revision").asInt() + ", as revision " + revision
                    + " was.");
            return 0;
        }
    }

    /** {@code ./tidy drafts drop moorings/v1} */
    @Command(
            name = "drop",
            description = "Throw a draft away with its history. What is live stays.",
            footer = {"", "Example:", "  ./tidy drafts drop moorings/v1"})
    static final class DropCommand extends ServiceCommand {

        @Parameters(paramLabel = "MODULE", description = "The module with its major version, such as moorings/v1.")
        private String module = "";

        @Override
        public Integer call() {
            DraftName name = DraftName.parse(module);
            changed(service(), "DELETE", name, "", null);
            out().println("The draft of " + name + " is gone.");
            return 0;
        }
    }

    /** Changes a draft as it is now. */
    private static JsonNode changed(
            Service service, String method, DraftName name, String below, @Nullable Object body) {
        int seen = service.desk(name.path()).path("revision").asInt();
        var response = Service.expectSuccess(
                service.change(method, name.path() + below, body, Map.entry("If-Match", "\"" + seen + "\"")));
        return response.body().length == 0 ? Service.tree(Map.of()) : Service.json(response);
    }
}
