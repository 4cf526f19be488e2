package tidybridge.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy role list|set|remove} */
@Command(
        name = "role",
        description =
                "Named sets of privileges. Those in workspace.yaml come with './tidy publish'; others are made here.",
        subcommands = {RoleCommand.ListCommand.class, RoleCommand.SetCommand.class, RoleCommand.RemoveCommand.class},
        footer = {
            "",
            "Examples:",
            "  ./tidy role list",
            "  ./tidy role set quay-clerk --holds moorings.book --holds 'tolls.*'"
        })
final class RoleCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    /** {@code ./tidy role list} */
    @Command(
            name = "list",
            description = "List the roles, what they hold, and how many have them.",
            footer = {"", "Example:", "  ./tidy role list --json"})
    static final class ListCommand extends ServiceCommand {

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            JsonNode answer = service().desk("/desk/roles");
            if (json.print(answer, out())) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            for (JsonNode role : answer.path("roles")) {
                String from = role.path("from").asString();
                rows.add(List.of(
                        role.path("name").asString(),
                        Texts.joined(role.path("holds")),
                        String.valueOf(role.path("holders").asInt()),
                        from.equals("workspace") ? role.path("workspace").asString() : from,
                        role.path("about").asString("")));
            }
            out().print(Table.draw(
                    List.of("Role", "Holds", "Have it", "From", "About"),
                    List.of(false, false, true, false, false),
                    rows));
            return 0;
        }
    }

    /** {@code ./tidy role set quay-clerk --holds moorings.book} */
    @Command(
            name = "set",
            description = "Make a role, or change one that was made here; what is not said stays as it is.",
            footer = {
                "",
                "Example:",
                "  ./tidy role set quay-clerk --holds moorings.book --about 'Books berths at the quay'"
            })
    static final class SetCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "The role's name.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Option(
                names = "--holds",
                paramLabel = "PRIVILEGE",
                description =
                        "A privilege, or a group of them such as 'moorings.*'; may be repeated. They take the place of what it holds.")
        private List<String> holds = new ArrayList<>();

        @Option(names = "--about", paramLabel = "TEXT", description = "A sentence for whoever gives the role.")
        private @Nullable String about;

        @Override
        public Integer call() {
            JsonNode before = Texts.named(service().desk("/desk/roles").path("roles"), name);
            Set<String> held = new LinkedHashSet<>(holds.isEmpty() ? Texts.list(before.path("holds")) : holds);
            Map<String, Object> request = new LinkedHashMap<>();
            request.put("about", about == null ? before.path("about").asString("") : about);
            request.put("holds", held);
            JsonNode role =
                    Service.json(Service.expectSuccess(service().put("/desk/roles/" + Texts.encoded(name), request)));
            out().println("The role " + name + " holds " + Texts.joined(role.path("holds")) + ".");
            return 0;
        }
    }

    /** {@code ./tidy role remove quay-clerk} */
    @Command(
            name = "remove",
            description = "Remove a role, and take it from whoever has it.",
            footer = {"", "Example:", "  ./tidy role remove quay-clerk"})
    static final class RemoveCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "The role's name.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Override
        public Integer call() {
            Service.expectSuccess(service().delete("/desk/roles/" + Texts.encoded(name)));
            out().println("The role " + name + " is removed.");
            return 0;
        }
    }
}
