package tidybridge.cli;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** {@code ./tidy tools moorings/v1} */
@Command(
        name = "tools",
        description =
                "List the operations of a module that assistants may use, as whoever is signed in would find them.",
        footer = {
            "",
            "Reads are tools unless the text says 'assistants: withheld'; a change is one when it says 'assistants: offered'.",
            "A change has a second tool that rehearses it, for whoever holds tidy.rehearse.",
            "",
            "Example:",
            "  ./tidy tools moorings/v1"
        })
final class ToolsCommand extends ServiceCommand {

    private static final String REHEARSAL = "Rehearse: ";

    @Parameters(
            index = "0",
            paramLabel = "MODULE",
            description = "The module and its major version, such as moorings/v1.")
    private String module = "";

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        if (!module.matches("[a-z][a-z0-9-]*/v[1-9][0-9]*")) {
            throw CommandFailure.mistyped("A module is named with its major version, such as moorings/v1.");
        }
        Service service = service();
        ArrayNode tools = JsonMapper.shared().createArrayNode();
        String cursor = null;
        do {
            JsonNode result = page(service, cursor);
            result.path("tools").forEach(tools::add);
            cursor = result.path("nextCursor").asString(null);
        } while (cursor != null);
        String address = service.at("/mcp/" + module).toString();
        ObjectNode whole = JsonMapper.shared().createObjectNode().put("address", address);
        whole.set("tools", tools);
        if (json.print(whole, out())) {
            return 0;
        }
        List<List<String>> rows = new ArrayList<>();
        for (JsonNode tool : tools) {
            rows.add(List.of(
                    tool.path("name").asString(),
                    kind(tool),
                    tool.path("title").asString().replaceFirst("^" + REHEARSAL, ""),
                    taken(tool.path("inputSchema"))));
        }
        out().print(Table.draw(List.of("Tool", "Kind", "What it does", "Takes"), SourceCommand.left(4), rows));
        out().println();
        out().println("Assistants find them at " + address + ", by the Model Context Protocol.");
        return 0;
    }

    private JsonNode page(Service service, @Nullable String cursor) {
        ObjectNode message = JsonMapper.shared()
                .createObjectNode()
                .put("jsonrpc", "2.0")
                .put("id", 1)
                .put("method", "tools/list");
        ObjectNode parameters = message.putObject("params");
        if (cursor != null) {
            parameters.put("cursor", cursor);
        }
        byte[] body = message.toString().getBytes(StandardCharsets.UTF_8);
        return Service.json(Service.expectSuccess(
                        service.call("POST", "/mcp/" + module, Map.of(), "application/json", body)))
                .path("result");
    }

    private static String kind(JsonNode tool) {
        if (tool.path("annotations").path("readOnlyHint").asBoolean()) {
            return "reads";
        }
        return tool.path("title").asString().startsWith(REHEARSAL) ? "rehearses" : "changes";
    }

    /** Its arguments, those that are needed with a star. */
    private static String taken(JsonNode input) {
        List<String> needed =
                input.path("required").valueStream().map(JsonNode::asString).toList();
        List<String> names = new ArrayList<>();
        for (String name : input.path("properties").propertyNames()) {
            names.add(needed.contains(name) ? name + "*" : name);
        }
        return String.join(", ", names);
    }
}
