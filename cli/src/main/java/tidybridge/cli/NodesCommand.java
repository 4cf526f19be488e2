package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy nodes} */
@Command(
        name = "nodes",
        description = "List the services that run over the same records, and what each cannot serve.",
        footer = {
            "",
            "A node that is silent ended without saying so, hangs, or does not reach the records.",
            "Nodes whose change is the same serve the same.",
            "",
            "Example:",
            "  ./tidy nodes"
        })
final class NodesCommand extends ServiceCommand {

    private static final long SECOND = 1_000;

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        JsonNode answer = service().desk("/desk/nodes");
        if (json.print(answer, out())) {
            return 0;
        }
        List<List<String>> rows = new ArrayList<>();
        for (JsonNode node : answer.path("nodes")) {
            rows.add(List.of(
                    node.path("name").asString(),
                    state(node),
                    node.path("version").asString(),
                    Texts.moment(node.path("startedAt"), ""),
                    node.path("liveChange").asString(),
                    node.path("here").asBoolean() ? "answers" : ""));
            for (JsonNode trouble : node.path("troubles")) {
                rows.add(List.of(
                        "",
                        "",
                        trouble.path("module").asString() + ": "
                                + trouble.path("words").asString(),
                        "",
                        "",
                        ""));
            }
        }
        out().print(Table.draw(
                List.of("Node", "State", "Version", "Since (UTC)", "Change", "Here"), SourceCommand.left(6), rows));
        return 0;
    }

    private static String state(JsonNode node) {
        String state = node.path("state").asString();
        return state.equals("silent")
                ? state + " for " + node.path("silentMillis").asLong() / SECOND + " s"
                : state;
    }
}
