package tidybridge.cli;

import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tidybridge.core.compare.DifferenceNote;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy publish --folder FOLDER} */
@Command(
        name = "publish",
        description = "Check a workspace, send it to the service, and make its modules live: all of them or none.",
        footer = {
            "",
            "A version that is published never changes; raise 'version' to publish another text.",
            "A text that breaks callers of the same major version is refused, unless --breaking says why they must live with it.",
            "A module whose text says 'review: true' needs a second person: --ask-review asks, './tidy review approve' approves.",
            "",
            "Example:",
            "  ./tidy publish --folder demo/workspace"
        })
final class PublishCommand extends ServiceCommand {

    private static final int CONFLICT = 409;

    @Mixin
    private final PublishWords words = new PublishWords();

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        PrintWriter out = out();
        CheckedWorkspace checked = folder.readGood(out);
        HttpResponse<byte[]> response = service().post(words.path(), request(checked));
        if (json.isWanted()) {
            out.println(new String(response.body(), StandardCharsets.UTF_8));
            return response.statusCode() == 200 ? 0 : 1;
        }
        folder.refuseUnfit(response, out);
        explain(response, out);
        JsonNode answer = Service.json(Service.expectSuccess(response));
        if (words.asksReview()) {
            PublishWords.printAsked(answer, service(), out);
            return 0;
        }
        print(answer, out);
        return 0;
    }

    private void print(JsonNode answer, PrintWriter out) {
        for (JsonNode module : answer.path("modules")) {
            folder.print(module, out);
            out.printf(
                    "%-12s %s/v%d %s at %s%s%n",
                    module.path("outcome").asString(),
                    module.path("name").asString(),
                    module.path("major").asInt(),
                    module.path("version").asString(),
                    module.path("basePath").asString(),
                    since(module));
        }
        for (JsonNode role : answer.path("roles")) {
            int holders = role.path("holders").asInt();
            out.printf(
                    "%-12s role %s%s%n",
                    role.path("outcome").asString(),
                    role.path("name").asString(),
                    holders == 0 ? "" : ", had by " + holders);
        }
    }

    /** What callers meet in it. */
    private static String since(JsonNode module) {
        List<DifferenceNote> differences = DifferencePrinter.read(module.path("differences"));
        return differences.isEmpty()
                ? ""
                : ", " + DifferencePrinter.counted(differences) + " since "
                        + module.path("comparedWith").asString();
    }

    /** Prints what callers were promised, when that is why nothing was done. */
    static void explain(HttpResponse<byte[]> response, PrintWriter out) {
        if (response.statusCode() != CONFLICT) {
            return;
        }
        for (JsonNode module : Service.json(response).path("modules")) {
            if (module.path("differences").isEmpty()) {
                continue;
            }
            out.println(module.path("name").asString() + "  "
                    + module.path("comparedWith").asString() + " -> "
                    + module.path("version").asString());
            new DifferencePrinter(out).print(DifferencePrinter.read(module.path("differences")));
            out.println();
        }
    }

    private Map<String, Object> request(CheckedWorkspace checked) {
        Map<String, Object> request = checked.request();
        request.put("by", System.getProperty("user.name", "unknown"));
        words.addTo(request);
        if (checked.roles() != null) {
            request.put("workspace", checked.title());
        }
        return request;
    }
}
