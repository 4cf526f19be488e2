package tidybridge.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy modules} */
@Command(
        name = "modules",
        mixinStandardHelpOptions = true,
        description = "List what is live: modules, versions and operations.",
        footer = {"", "Example:", "  ./tidy modules --json"})
final class ModulesCommand implements Callable<Integer> {

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    @Option(names = "--json", description = "Print the service's answer as it is.")
    private boolean json;

    @Override
    public Integer call() {
        PrintWriter out = spec.commandLine().getOut();
        JsonNode answer = options.open().desk("/desk/modules");
        if (json) {
            out.println(answer.toPrettyString());
            return 0;
        }
        List<List<String>> rows = new ArrayList<>();
        for (JsonNode module : answer.path("modules")) {
            String access = module.path("open").asBoolean() ? "open" : "closed";
            String state = module.path("served").asBoolean() ? access : "not served";
            String identity =
                    module.path("name").asString() + "/v" + module.path("major").asInt();
            rows.add(List.of(
                    identity,
                    module.path("version").asString(),
                    state,
                    "",
                    module.path("title").asString()));
            if (module.has("trouble")) {
                rows.add(List.of("", "", "", "", module.path("trouble").asString()));
            }
            for (JsonNode operation : module.path("operations")) {
                String call = operation.path("method").asString() + " "
                        + operation.path("path").asString();
                rows.add(List.of("", "", "", call, operation.path("about").asString()));
            }
        }
        if (rows.isEmpty()) {
            out.println("Nothing is published yet; type './tidy publish FOLDER'.");
            return 0;
        }
        out.print(Table.draw(
                List.of("Module", "Version", "Access", "Operation", "About"),
                List.of(false, false, false, false, false),
                rows));
        return 0;
    }
}
