package tidybridge.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy person list|set|link|drop-factor|remove} */
@Command(
        name = "person",
        description = "Who signs in with name and password, and the roles they have.",
        subcommands = {
            PersonCommand.ListCommand.class,
            PersonCommand.SetCommand.class,
            PersonCommand.LinkCommand.class,
            PersonCommand.DropFactorCommand.class,
            PersonCommand.RemoveCommand.class
        },
        footer = {
            "",
            "Examples:",
            "  ./tidy person set mara.holt --full-name 'Mara Holt' --give integration-developer",
            "  ./tidy person link mara.holt"
        })
final class PersonCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    private static String at(String name) {
        return "/desk/people/" + Texts.encoded(name);
    }

    /** {@code ./tidy person list} */
    @Command(
            name = "list",
            description = "List everybody who may sign in.",
            footer = {"", "Example:", "  ./tidy person list --json"})
    static final class ListCommand extends ServiceCommand {

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            JsonNode answer = service().desk("/desk/people");
            if (json.print(answer, out())) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            for (JsonNode person : answer.path("people")) {
                rows.add(List.of(
                        person.path("name").asString(),
                        person.path("fullName").asString(),
                        Texts.joined(person.path("roles")),
                        state(person),
                        Texts.moment(person.path("seenAt"), "not signed in")));
            }
            if (rows.isEmpty()) {
                out().println(
                                "Nobody can sign in by name yet; type './tidy person set NAME --full-name TEXT --give administrator'.");
                return 0;
            }
            out().print(Table.draw(
                    List.of("Name", "Full name", "Roles", "Signs in with", "Seen"), SourceCommand.left(5), rows));
            return 0;
        }

        private static String state(JsonNode person) {
            if (person.path("disabled").asBoolean()) {
                return "may not sign in";
            }
            if (person.has("provider")) {
                return person.path("provider").asString();
            }
            if (!person.path("hasPassword").asBoolean()) {
                return "no password yet";
            }
            return person.path("hasFactor").asBoolean() ? "password and code" : "password";
        }
    }

    /** {@code ./tidy person set mara.holt --give operator} */
    @Command(
            name = "set",
            description = "Make a person, or change one; what is not said stays as it is.",
            footer = {
                "",
                "Examples:",
                "  ./tidy person set mara.holt --full-name 'Mara Holt' --give integration-developer",
                "  ./tidy person set mara.holt --give reviewer --take integration-developer"
            })
    static final class SetCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "The name to sign in with.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Option(names = "--full-name", paramLabel = "TEXT", description = "The name for people.")
        private @Nullable String fullName;

        @Mixin
        private final RoleOptions roles = new RoleOptions();

        @Override
        public Integer call() {
            JsonNode before = Texts.named(service().desk("/desk/people").path("people"), name);
            Map<String, Object> request = new LinkedHashMap<>();
            request.put("fullName", fullName == null ? before.path("fullName").asString("") : fullName);
            roles.put(before, request);
            JsonNode person = Service.json(Service.expectSuccess(service().put(at(name), request)));
            out().println(name + " has the roles: " + Texts.joined(person.path("roles")) + ".");
            if (!person.path("hasPassword").asBoolean()) {
                out().println("Type './tidy person link " + name + "' for a link with which they choose a password.");
            }
            return 0;
        }
    }

    /** {@code ./tidy person link mara.holt} */
    @Command(
            name = "link",
            description = "Print a link with which a person chooses a password; it works once, for three days.",
            footer = {"", "Example:", "  ./tidy person link mara.holt"})
    static final class LinkCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "Whose password it is.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Override
        public Integer call() {
            JsonNode code = posted(at(name) + "/link", Map.of());
            out().println(service().at(code.path("path").asString()));
            return 0;
        }
    }

    /** {@code ./tidy person drop-factor mara.holt} */
    @Command(
            name = "drop-factor",
            description = "Take a person's second factor away, because the authenticator is lost; their sessions end.",
            footer = {"", "Example:", "  ./tidy person drop-factor mara.holt"})
    static final class DropFactorCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "Whose second factor it is.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Override
        public Integer call() {
            Service.expectSuccess(service().delete(at(name) + "/factor"));
            out().println(name + " signs in with the password alone again.");
            return 0;
        }
    }

    /** {@code ./tidy person remove mara.holt} */
    @Command(
            name = "remove",
            description = "Remove a person; their sessions end.",
            footer = {"", "Example:", "  ./tidy person remove mara.holt"})
    static final class RemoveCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "Who is removed.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Override
        public Integer call() {
            Service.expectSuccess(service().delete(at(name)));
            out().println(name + " is removed.");
            return 0;
        }
    }
}
