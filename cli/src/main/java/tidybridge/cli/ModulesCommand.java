package tidybridge.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy modules} */
@Command(
        name = "modules",
        description = "List what is live: modules, versions and operations.",
        footer = {"", "Example:", "  ./tidy modules --json"})
final class ModulesCommand extends ServiceCommand {

    @Mixin
    private final JsonOption json = new JsonOption();

    /** "moorings.book", "open", "closed" */
    private static String access(JsonNode operation) {
        List<String> needs =
                operation.path("needs").valueStream().map(JsonNode::asString).toList();
        return needs.isEmpty() ? operation.path("access").asString() : String.join(" or ", needs);
    }

    /** "It is deprecated and ends on 2031-12-31; moorings/v2 takes its place." */
    private static String ends(JsonNode deprecated) {
        String ends = deprecated.path("ends").asString("");
        String successor = deprecated.path("successor").asString("");
        return "It is deprecated" + (ends.isEmpty() ? "" : " and ends on " + ends)
                + (successor.isEmpty() ? "." : "; " + successor + " takes its place.");
    }

    @Override
    public Integer call() {
        PrintWriter out = out();
        JsonNode answer = service().desk("/desk/modules");
        if (json.print(answer, out)) {
            return 0;
        }
        List<List<String>> rows = new ArrayList<>();
        for (JsonNode module : answer.path("modules")) {
            String state = module.path("served").asBoolean()
                    ? module.path("access").asString().replace('-', ' ')
                    : "not served";
            String identity =
                    module.path("name").asString() + "/v" + module.path("major").asInt();
            rows.add(List.of(
                    identity,
                    module.path("version").asString(),
                    state,
                    "",
                    module.path("title").asString()));
            if (module.has("deprecated")) {
                rows.add(List.of("", "", "", "", ends(module.path("deprecated"))));
            }
            for (JsonNode note : module.path("drift")) {
                rows.add(List.of(
                        "",
                        "",
                        "drifted",
                        note.path("operation").asString(""),
                        note.path("words").asString()));
            }
            if (module.has("trouble")) {
                rows.add(List.of("", "", "", "", module.path("trouble").asString()));
            }
            for (JsonNode other : module.path("elsewhere")) {
                rows.add(List.of(
                        "",
                        "",
                        "elsewhere",
                        "",
                        other.path("node").asString() + ": "
                                + other.path("words").asString()));
            }
            for (JsonNode operation : module.path("operations")) {
                String call = operation.path("method").asString() + " "
                        + operation.path("path").asString();
                rows.add(List.of(
                        "", "", access(operation), call, operation.path("about").asString()));
                if (operation.has("deprecated")) {
                    rows.add(List.of("", "", "", "", ends(operation.path("deprecated"))));
                }
            }
        }
        if (rows.isEmpty()) {
            out.println("Nothing is published yet; type './tidy publish --folder FOLDER'.");
            return 0;
        }
        out.print(Table.draw(
                List.of("Module", "Version", "Access", "Operation", "About"),
                List.of(false, false, false, false, false),
                rows));
        return 0;
    }
}
