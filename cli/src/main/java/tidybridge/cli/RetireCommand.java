package tidybridge.cli;

import java.net.http.HttpResponse;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy retire moorings/v1} */
@Command(
        name = "retire",
        description = {
            "Take a major version of a module away: its callers are told that it is gone.",
            "Its releases are kept; './tidy revert' makes one live again."
        },
        footer = {"", "Example:", "  ./tidy retire moorings/v1 --because \"everybody uses v2\""})
final class RetireCommand extends ServiceCommand {

    private static final Pattern IDENTITY = Pattern.compile("([^/]+)/v(\\d{1,5})");

    @Parameters(index = "0", paramLabel = "MODULE/vN", description = "What is live, such as moorings/v1.")
    private String identity = "";

    @Mixin
    private final Reason reason = new Reason();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        Matcher named = IDENTITY.matcher(identity);
        if (!named.matches()) {
            throw CommandFailure.mistyped("'" + identity + "' is no major version; write it as moorings/v1.");
        }
        String why = reason.text();
        if (why == null || why.isBlank()) {
            throw CommandFailure.mistyped("Say why it goes: --because TEXT. Its callers are told.");
        }
        String path = "/desk/modules/" + Texts.encoded(named.group(1)) + "/v" + named.group(2);
        String version = service().desk(path).path("version").asString();
        HttpResponse<byte[]> response = Service.expectSuccess(service()
                .delete(path + "/release?version=" + Texts.encoded(version) + "&reason=" + Texts.encoded(why)));
        JsonNode answer = Service.json(response);
        if (!json.print(answer, out())) {
            out().println(identity + " is retired; it was " + version + ".");
        }
        return 0;
    }
}
