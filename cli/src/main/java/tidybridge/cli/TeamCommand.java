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

/** {@code ./tidy team list|invite|remove} */
@Command(
        name = "team",
        description = "Client teams, which make applications and ask for privileges by themselves.",
        subcommands = {TeamCommand.ListCommand.class, TeamCommand.InviteCommand.class, TeamCommand.RemoveCommand.class},
        footer = {
            "",
            "Examples:",
            "  ./tidy team invite harbour-apps --title 'Harbour apps' --contact apps@marrowby.example",
            "  ./tidy team list"
        })
final class TeamCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    private static String at(String name) {
        return "/desk/teams/" + Texts.encoded(name);
    }

    /** {@code ./tidy team list} */
    @Command(
            name = "list",
            description = "List the teams with their people and applications.",
            footer = {"", "Example:", "  ./tidy team list --json"})
    static final class ListCommand extends ServiceCommand {

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            JsonNode answer = service().desk("/desk/teams");
            if (json.print(answer, out())) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            for (JsonNode team : answer.path("teams")) {
                rows.add(List.of(
                        team.path("name").asString(),
                        team.path("title").asString(),
                        team.path("contact").asString(),
                        Texts.joined(team.path("people")),
                        Texts.joined(team.path("clients"))));
            }
            if (rows.isEmpty()) {
                out().println(
                                "There are no client teams yet; './tidy team invite NAME --title TEXT --contact MAIL' makes one.");
                return 0;
            }
            out().print(Table.draw(
                    List.of("Team", "Title", "Contact", "People", "Applications"), SourceCommand.left(5), rows));
            return 0;
        }
    }

    /** {@code ./tidy team invite harbour-apps} */
    @Command(
            name = "invite",
            description =
                    "Print a link with which somebody joins a team; it works once, for seven days. With --title and --contact the team is made first.",
            footer = {
                "",
                "Examples:",
                "  ./tidy team invite harbour-apps --title 'Harbour apps' --contact apps@marrowby.example",
                "  ./tidy team invite harbour-apps"
            })
    static final class InviteCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "The team's name.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Option(names = "--title", paramLabel = "TEXT", description = "How people call a new team.")
        private @Nullable String title;

        @Option(names = "--contact", paramLabel = "MAIL", description = "Where a new team is told something.")
        private @Nullable String contact;

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            if (title != null || contact != null) {
                Map<String, Object> team = new LinkedHashMap<>();
                team.put("title", title == null ? "" : title);
                team.put("contact", contact == null ? "" : contact);
                Service.expectSuccess(service().put(at(name), team));
            }
            JsonNode invitation = posted(at(name) + "/invitations", Map.of());
            if (!json.print(invitation, out())) {
                out().println(invitation.path("link").asString());
            }
            return 0;
        }
    }

    /** {@code ./tidy team remove harbour-apps} */
    @Command(
            name = "remove",
            description = "Remove a team with its people, its applications and their keys.",
            footer = {"", "Example:", "  ./tidy team remove harbour-apps"})
    static final class RemoveCommand extends ServiceCommand {

        @Parameters(paramLabel = "NAME", description = "The team's name.")
        @SuppressWarnings("NullAway.Init")
        private String name;

        @Override
        public Integer call() {
            Service.expectSuccess(service().delete(at(name)));
            out().println("The team " + name + " is removed, with its people, its applications and their keys.");
            return 0;
        }
    }
}
