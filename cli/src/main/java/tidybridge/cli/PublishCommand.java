package tidybridge.cli;

import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Severity;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy publish --folder FOLDER} */
@Command(
        name = "publish",
        description = "Check a workspace, send it to the service, and make its modules live: all of them or none.",
        footer = {
            "",
            "A version that is published never changes; raise 'version' to publish another text.",
            "",
            "Example:",
            "  ./tidy publish --folder demo/workspace"
        })
final class PublishCommand extends ServiceCommand {

    private static final int UNFIT = 422;

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        PrintWriter out = out();
        CheckedWorkspace checked = folder.read();
        if (checked.errors() > 0) {
            new FindingPrinter(folder.path(), out).print(checked.findings());
            throw CommandFailure.refused("Nothing was published. " + checked.summary());
        }
        HttpResponse<byte[]> response = service().post("/desk/releases", request(checked));
        if (json.isWanted()) {
            out.println(new String(response.body(), StandardCharsets.UTF_8));
            return response.statusCode() == 200 ? 0 : 1;
        }
        FindingPrinter printer = new FindingPrinter(folder.path(), out);
        if (response.statusCode() == UNFIT) {
            JsonNode problem = Service.json(response);
            printer.print(standing(problem));
            throw CommandFailure.refused(problem.path("detail").asString());
        }
        JsonNode answer = Service.json(Service.expectSuccess(response));
        for (JsonNode module : answer.path("modules")) {
            printer.print(standing(module));
            out.printf(
                    "%-12s %s/v%d %s at %s%n",
                    module.path("outcome").asString(),
                    module.path("name").asString(),
                    module.path("major").asInt(),
                    module.path("version").asString(),
                    module.path("basePath").asString());
        }
        for (JsonNode role : answer.path("roles")) {
            int holders = role.path("holders").asInt();
            out.printf(
                    "%-12s role %s%s%n",
                    role.path("outcome").asString(),
                    role.path("name").asString(),
                    holders == 0 ? "" : ", had by " + holders);
        }
        return 0;
    }

    /** What is worth reading now: no advice, and nothing that the text accepts. */
    private static List<Finding> standing(JsonNode parent) {
        return parent.path("findings")
                .valueStream()
                .map(RemoteFinding::read)
                .filter(finding -> !finding.isAccepted() && finding.severity() != Severity.ADVICE)
                .toList();
    }

    private static Map<String, Object> request(CheckedWorkspace checked) {
        Map<String, Object> request = checked.request();
        request.put("by", System.getProperty("user.name", "unknown"));
        if (checked.roles() != null) {
            request.put("workspace", checked.title());
        }
        return request;
    }
}
