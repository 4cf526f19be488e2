package tidybridge.cli;

import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy console} */
@Command(
        name = "console",
        mixinStandardHelpOptions = true,
        description = "Print a link that opens the console signed in; it works once, for 15 minutes.",
        footer = {"", "Example:", "  ./tidy console"})
final class ConsoleCommand implements Callable<Integer> {

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    @Override
    public Integer call() {
        Service service = options.open();
        JsonNode code = Service.json(Service.expectSuccess(service.post("/desk/sign-in-codes", Map.of())));
        spec.commandLine()
                .getOut()
                .println(service.at("/sign-in#" + code.path("code").asString()));
        return 0;
    }
}
