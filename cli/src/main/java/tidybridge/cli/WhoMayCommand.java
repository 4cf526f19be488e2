package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy who-may moorings/v1 GET /berths} */
@Command(
        name = "who-may",
        description = "List the roles, applications and people that may call an operation.",
        footer = {"", "Example:", "  ./tidy who-may moorings/v1 POST /bookings"})
final class WhoMayCommand extends ServiceCommand {

    @Mixin
    private final OperationArguments operation = new OperationArguments();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        JsonNode answer = service().desk("/desk/access/holders" + operation.query());
        if (json.print(answer, out())) {
            return 0;
        }
        String label =
                answer.path("method").asString() + " " + answer.path("path").asString();
        if (answer.path("open").asBoolean()) {
            out().println(label + " is open to everybody.");
            return 0;
        }
        JsonNode needs = answer.path("needs");
        out().println(
                        needs.isEmpty()
                                ? label + " is closed to all but administrators."
                                : label + " asks for " + (needs.size() > 1 ? "one of " : "") + Texts.joined(needs)
                                        + ".");
        List<List<String>> rows = new ArrayList<>();
        add(rows, "role", answer.path("roles"));
        add(rows, "application", answer.path("clients"));
        add(rows, "person", answer.path("people"));
        if (!rows.isEmpty()) {
            out().print(Table.draw(List.of("Who", "Name", "By", "But"), SourceCommand.left(4), rows));
        }
        if (answer.path("clients").isEmpty() && answer.path("people").isEmpty()) {
            out().println("Nobody but the administrator's token may call it.");
        }
        return 0;
    }

    private static void add(List<List<String>> rows, String kind, JsonNode holders) {
        for (JsonNode holder : holders) {
            rows.add(List.of(
                    kind,
                    holder.path("name").asString(),
                    holder.path("by").asString(),
                    holder.path("trouble").asString("")));
        }
    }
}
