package tidybridge.cli;

import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code ./tidy reference moorings/v1} */
@Command(
        name = "reference",
        mixinStandardHelpOptions = true,
        description = "Print a live module's OpenAPI 3.1 description, as YAML or JSON.",
        footer = {"", "Example:", "  ./tidy reference moorings/v1 --json > moorings.json"})
final class ReferenceCommand implements Callable<Integer> {

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    @Parameters(paramLabel = "MODULE", description = "Name and version, such as moorings/v1.")
    @SuppressWarnings("NullAway.Init")
    private String module;

    @Option(names = "--json", description = "Print JSON in place of YAML.")
    private boolean json;

    @Override
    public Integer call() {
        if (!module.matches("[a-z][a-z0-9-]*/v\\d+")) {
            throw CommandFailure.mistyped("'" + module + "' is no module; write it as moorings/v1.");
        }
        String path = "/api/" + module + (json ? "/openapi.json" : "/openapi.yaml");
        byte[] body = Service.expectSuccess(options.open().call("GET", path, Map.of(), null, new byte[0]))
                .body();
        spec.commandLine().getOut().println(new String(body, StandardCharsets.UTF_8).stripTrailing());
        return 0;
    }
}
