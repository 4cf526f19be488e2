package tidybridge.cli;

import java.nio.charset.StandardCharsets;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code ./tidy reference moorings/v1} */
@Command(
        name = "reference",
        description = "Print a live module's OpenAPI 3.1 description, as YAML or JSON.",
        footer = {"", "Example:", "  ./tidy reference moorings/v1 --json > moorings.json"})
final class ReferenceCommand extends ServiceCommand {

    @Parameters(paramLabel = "MODULE", description = "Name and version, such as moorings/v1.")
    @SuppressWarnings("NullAway.Init")
    private String module;

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        if (!module.matches("[a-z][a-z0-9-]*/v\\d+")) {
            throw CommandFailure.mistyped("'" + module + "' is no module; write it as moorings/v1.");
        }
        String path = "/api/" + module + (json.isWanted() ? "/openapi.json" : "/openapi.yaml");
        byte[] body = Service.expectSuccess(service().call("GET", path, Map.of(), null, new byte[0]))
                .body();
        out().println(new String(body, StandardCharsets.UTF_8).stripTrailing());
        return 0;
    }
}
