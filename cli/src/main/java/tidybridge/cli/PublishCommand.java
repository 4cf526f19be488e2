package tidybridge.cli;

import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Severity;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy publish FOLDER} */
@Command(
        name = "publish",
        mixinStandardHelpOptions = true,
        description = "Check a workspace, send it to the service, and make its modules live: all of them or none.",
        footer = {
            "",
            "A version that is published never changes; raise 'version' to publish another text.",
            "",
            "Example:",
            "  ./tidy publish demo/workspace"
        })
final class PublishCommand implements Callable<Integer> {

    private static final int UNFIT = 422;

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    @Parameters(paramLabel = "FOLDER", description = "The folder that holds workspace.yaml.")
    @SuppressWarnings("NullAway.Init")
    private Path folder;

    @Option(names = "--json", description = "Print the service's answer as it is.")
    private boolean json;

    @Override
    public Integer call() {
        PrintWriter out = spec.commandLine().getOut();
        CheckedWorkspace checked = CheckedWorkspace.read(folder);
        if (checked.errors() > 0) {
            new FindingPrinter(folder, out).print(checked.findings());
            throw CommandFailure.refused("Nothing was published. " + checked.summary());
        }
        HttpResponse<byte[]> response = options.open().post("/desk/releases", request(checked));
        if (json) {
            out.println(new String(response.body(), StandardCharsets.UTF_8));
            return response.statusCode() == 200 ? 0 : 1;
        }
        FindingPrinter printer = new FindingPrinter(folder, out);
        if (response.statusCode() == UNFIT) {
            JsonNode problem = Service.json(response);
            printer.print(standing(problem));
            throw CommandFailure.refused(problem.path("detail").asString());
        }
        for (JsonNode module : Service.json(Service.expectSuccess(response)).path("modules")) {
            printer.print(standing(module));
            out.printf(
                    "%-12s %s/v%d %s at %s%n",
                    module.path("outcome").asString(),
                    module.path("name").asString(),
                    module.path("major").asInt(),
                    module.path("version").asString(),
                    module.path("basePath").asString());
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
        return Map.of("by", System.getProperty("user.name", "unknown"), "modules", checked.texts());
    }
}
