package tidybridge.cli;

import java.util.Map;
import picocli.CommandLine.Command;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy console} */
@Command(
        name = "console",
        description = "Print a link that opens the console signed in; it works once, for 15 minutes.",
        footer = {"", "Example:", "  ./tidy console"})
final class ConsoleCommand extends ServiceCommand {

    @Override
    public Integer call() {
        JsonNode code = posted("/desk/sign-in-codes", Map.of());
        out().println(service().at("/sign-in#" + code.path("code").asString()));
        return 0;
    }
}
