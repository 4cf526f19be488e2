package tidybridge.cli;

import java.net.http.HttpResponse;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.definition.Version;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy revert moorings 1.0.0} */
@Command(
        name = "revert",
        description = {
            "Make an earlier release live again under its major version.",
            "Its text is compiled first; when it no longer fits its source, what is live stays."
        },
        footer = {"", "Example:", "  ./tidy revert moorings 1.0.0 --because \"1.1.0 answers too slowly\""})
final class RevertCommand extends ServiceCommand {

    @Parameters(index = "0", paramLabel = "MODULE", description = "The module's name, such as moorings.")
    private String module = "";

    @Parameters(
            index = "1",
            paramLabel = "VERSION",
            description = "The release, such as 1.0.0; './tidy history MODULE' lists them.")
    private String version = "";

    @Mixin
    private final Reason reason = new Reason();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        int major = Version.parse(version)
                .orElseThrow(() -> CommandFailure.mistyped("'" + version + "' is no version; write it as 1.0.0."))
                .major();
        Map<String, Object> request = new LinkedHashMap<>();
        request.put("version", version);
        if (reason.text() != null) {
            request.put("reason", reason.text());
        }
        HttpResponse<byte[]> response =
                service().put("/desk/modules/" + Texts.encoded(module) + "/v" + major + "/release", request);
        PublishCommand.explain(response, out());
        JsonNode answer = Service.json(Service.expectSuccess(response));
        if (json.print(answer, out())) {
            return 0;
        }
        List<DifferenceNote> differences = DifferencePrinter.read(answer.path("differences"));
        String replaced = answer.path("replaced").asString("");
        if (replaced.equals(version)) {
            out().println(module + "/v" + major + " is " + version + " already.");
            return 0;
        }
        out().println(module + "/v" + major + " is " + version + " again"
                + (replaced.isEmpty()
                        ? "."
                        : ", in place of " + replaced + ": " + DifferencePrinter.counted(differences) + "."));
        new DifferencePrinter(out()).print(differences);
        return 0;
    }
}
