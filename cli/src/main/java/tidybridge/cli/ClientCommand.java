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

/** {@code ./tidy client list|set|add-credential|revoke|take-back|remove} */
@Command(
        name = "client",
        description = "Applications that call modules with credentials of their own.",
        subcommands = {
            ClientCommand.ListCommand.class,
            ClientCommand.SetCommand.class,
            ClientCommand.AddCredentialCommand.class,
            ClientCommand.RevokeCommand.class,
            ClientCommand.TakeBackCommand.class,
            ClientCommand.RemoveCommand.class
        },
        footer = {
            "",
            "Examples:",
            "  ./tidy client set quay-display --owner 'Harbour office' --contact quays@marrowby.example --give partner",
            "  ./tidy client add-credential quay-display spring-2031 --ends 2031-09-30"
        })
final class ClientCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    private static String at(String name) {
        return "/desk/clients/" + Texts.encoded(name);
    }

    /** {@code ./tidy client list} */
    @Command(
            name = "list",
            description = "List the applications with their credentials, and when each was used last.",
            footer = {"", "Example:", "  ./tidy client list --json"})
    static final class ListCommand extends ServiceCommand {

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            JsonNode answer = service().desk("/desk/clients");
            if (json.print(answer, out())) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            for (JsonNode client : answer.path("clients")) {
                rows.add(List.of(
                        client.path("name").asString(),
                        client.path("owner").asString() + ", "
                                + client.path("contact").asString(),
                        client.path("disabled").asBoolean() ? "may not call" : held(client),
                        client.path("credentials").isEmpty() ? "none" : "",
                        "",
                        ""));
                for (JsonNode credential : client.path("credentials")) {
                    rows.add(List.of(
                            "",
                            "",
                            "",
                            credential.path("name").asString(),
                            Texts.moment(credential.path("usedAt"), "never"),
                            credential.path("ended").asBoolean()
                                    ? "ended"
                                    : Texts.moment(credential.path("endsAt"), "open end")));
                }
            }
            if (rows.isEmpty()) {
                out().println(
                                "There are no client applications yet; type './tidy client set NAME --owner TEXT --contact TEXT'.");
                return 0;
            }
            out().print(Table.draw(
                    List.of("Application", "Owner, contact", "Roles, given", "Credential", "Used", "Ends"),
                    SourceCommand.left(6),
                    rows));
            return 0;
        }
    }

    /** Its roles, and what was given to it besides. */
    private static String held(JsonNode client) {
        List<String> held = new ArrayList<>(Texts.list(client.path("roles")));
        for (JsonNode given : client.path("given")) {
            String end = Texts.moment(given.path("endsAt"), "");
            held.add(given.path("privilege").asString()
                    + (given.path("ended").asBoolean() ? " (ended)" : end.isEmpty() ? "" : " (until " + end + ")"));
        }
        return held.isEmpty() ? "none" : String.join(", ", held);
    }

    /** {@code ./tidy client set quay-display --give partner} */
    @Command(
            name = "set",
            description = "Make an application, or change one; what is not said stays as it is.",
            footer = {
                "",
                "Example:",
                "  ./tidy client set quay-display --owner 'Harbour office' --contact quays@marrowby.example --give partner"
            })
    static final class SetCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "The application's name.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Option(names = "--owner", paramLabel = "TEXT", description = "Who answers for it.")
        private @Nullable String owner;

        @Option(
                names = "--contact",
                paramLabel = "TEXT",
                description = "Where to tell when something is wrong with it.")
        private @Nullable String contact;

        @Option(names = "--about", paramLabel = "TEXT", description = "What it does.")
        private @Nullable String about;

        @Option(
                names = "--from",
                paramLabel = "NETWORK",
                description =
                        "A network it may call from, such as 10.0.0.0/8; may be repeated. They take the place of those it has; 'everywhere' removes them.")
        private List<String> networks = new ArrayList<>();

        @Option(
                names = "--calls",
                paramLabel = "N",
                description = "How many calls it may begin in each window; 0 for any number.")
        private @Nullable Integer calls;

        @Option(
                names = "--per",
                paramLabel = "SECONDS",
                description = "How long a window is: 60 unless set. It must fit into a day without a rest.")
        private @Nullable Integer perSeconds;

        @Option(
                names = "--concurrent",
                paramLabel = "N",
                description = "How many of its calls may be under way at a time; 0 for any number.")
        private @Nullable Integer concurrent;

        @Option(
                names = "--certificate",
                paramLabel = "SUBJECT",
                description =
                        "The subject of a certificate that it shows in place of a key; may be repeated. They take the place of those it has; 'none' removes them.")
        private List<String> subjects = new ArrayList<>();

        @Mixin
        private final RoleOptions roles = new RoleOptions();

        @Override
        public Integer call() {
            JsonNode before = Texts.named(service().desk("/desk/clients").path("clients"), name);
            Map<String, Object> request = new LinkedHashMap<>();
            request.put("owner", owner == null ? before.path("owner").asString("") : owner);
            request.put("contact", contact == null ? before.path("contact").asString("") : contact);
            request.put("about", about == null ? before.path("about").asString("") : about);
            request.put(
                    "addresses",
                    networks.isEmpty()
                            ? Texts.list(before.path("addresses"))
                            : networks.stream()
                                    .filter(network -> !network.equals("everywhere"))
                                    .toList());
            request.put("quota", quota(before.path("quota")));
            request.put(
                    "subjects",
                    subjects.isEmpty()
                            ? Texts.list(before.path("subjects"))
                            : subjects.stream()
                                    .filter(subject -> !subject.equals("none"))
                                    .toList());
            roles.put(before, request);
            JsonNode client = Service.json(Service.expectSuccess(service().put(at(name), request)));
            JsonNode addresses = client.path("addresses");
            out().println(name + " has the roles: " + Texts.joined(client.path("roles")) + "; it may call from "
                    + (addresses.isEmpty() ? "everywhere" : Texts.joined(addresses))
                    + (client.path("quota").isObject() ? ", " + told(client.path("quota")) : "") + ".");
            if (client.path("credentials").isEmpty() && client.path("subjects").isEmpty()) {
                out().println("Type './tidy client add-credential " + name + " NAME' for a key.");
            }
            return 0;
        }

        private Map<String, Object> quota(JsonNode before) {
            Map<String, Object> quota = new LinkedHashMap<>();
            quota.put("calls", calls == null ? before.path("calls").asInt(0) : calls);
            quota.put(
                    "perSeconds", perSeconds == null ? before.path("perSeconds").asInt(60) : perSeconds);
            quota.put(
                    "concurrent", concurrent == null ? before.path("concurrent").asInt(0) : concurrent);
            return quota;
        }

        /** "1000 calls in 60 s and 5 at a time" */
        private static String told(JsonNode quota) {
            String often = quota.has("calls")
                    ? quota.path("calls").asLong() + " calls in "
                            + quota.path("perSeconds").asLong() + " s"
                    : "";
            String much = quota.has("concurrent") ? quota.path("concurrent").asInt() + " at a time" : "";
            return often + (often.isEmpty() || much.isEmpty() ? "" : " and ") + much;
        }
    }

    /** Which credential of which application. */
    static final class CredentialArguments {

        @Parameters(index = "0", paramLabel = "APPLICATION", description = "Whose it is.")
        @SuppressWarnings("NullAway.Init")
        private String client;

        @Parameters(index = "1", paramLabel = "NAME", description = "What the credential is called.")
        @SuppressWarnings("NullAway.Init")
        private String name;
    }

    /** {@code ./tidy client add-credential quay-display spring-2031} */
    @Command(
            name = "add-credential",
            description = "Give an application another key, and show it this once.",
            footer = {
                "",
                "Several are valid at a time: add the next one, let the application change over, then revoke the old one.",
                "",
                "Example:",
                "  ./tidy client add-credential quay-display spring-2031 --ends 2031-09-30"
            })
    static final class AddCredentialCommand extends ServiceCommand {

        @Mixin
        private final CredentialArguments credential = new CredentialArguments();

        @Mixin
        private final EndsOption ends = new EndsOption();

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            Map<String, Object> request = new LinkedHashMap<>();
            request.put("name", credential.name);
            ends.put(request);
            JsonNode made = posted(at(credential.client) + "/credentials", request);
            if (json.print(made, out())) {
                return 0;
            }
            out().println(made.path("key").asString());
            out().flush();
            err().println(
                            "The key is shown this once. It is sent as 'Authorization: Bearer KEY', or as the password of Basic with the name "
                                    + credential.client + ".");
            return 0;
        }
    }

    /** {@code ./tidy client revoke quay-display winter-2030} */
    @Command(
            name = "revoke",
            description = "Make a key invalid at once.",
            footer = {"", "Example:", "  ./tidy client revoke quay-display winter-2030"})
    static final class RevokeCommand extends ServiceCommand {

        @Mixin
        private final CredentialArguments credential = new CredentialArguments();

        @Override
        public Integer call() {
            Service.expectSuccess(
                    service().delete(at(credential.client) + "/credentials/" + Texts.encoded(credential.name)));
            out().println("The credential " + credential.name + " of " + credential.client + " is revoked.");
            return 0;
        }
    }

    /** {@code ./tidy client take-back quay-display moorings.book} */
    @Command(
            name = "take-back",
            description = "Take back a privilege that was given to an application on request.",
            footer = {"", "Example:", "  ./tidy client take-back quay-display moorings.book"})
    static final class TakeBackCommand extends ServiceCommand {

        @Parameters(index = "0", paramLabel = "APPLICATION", description = "Who has it.")
        @SuppressWarnings("NullAway.Init")
        private String client;

        @Parameters(index = "1", paramLabel = "PRIVILEGE", description = "What is taken back.")
        @SuppressWarnings("NullAway.Init")
        private String privilege;

        @Override
        public Integer call() {
            Service.expectSuccess(service().delete(at(client) + "/privileges/" + Texts.encoded(privilege)));
            out().println("The privilege " + privilege + " is taken back from " + client + ".");
            return 0;
        }
    }

    /** {@code ./tidy client remove quay-display} */
    @Command(
            name = "remove",
            description = "Remove an application; its keys are no longer valid.",
            footer = {"", "Example:", "  ./tidy client remove quay-display"})
    static final class RemoveCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "The application's name.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Override
        public Integer call() {
            Service.expectSuccess(service().delete(at(name)));
            out().println("The application " + name + " is removed.");
            return 0;
        }
    }
}
