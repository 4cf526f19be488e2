package tidybridge.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy request list|show|allow|refuse} */
@Command(
        name = "request",
        description = "What client teams ask for: to become a team, or privileges for an application.",
        subcommands = {
            RequestCommand.ListCommand.class,
            RequestCommand.ShowCommand.class,
            RequestCommand.AllowCommand.class,
            RequestCommand.RefuseCommand.class
        },
        footer = {
            "",
            "Whoever holds tidy.answer-requests gives the privileges that they hold themselves; with tidy.give-access, everything.",
            "",
            "Examples:",
            "  ./tidy request list",
            "  ./tidy request allow 7 --ends 2031-09-30 --words \"For the season\""
        })
final class RequestCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    private static String at(long id) {
        return "/desk/requests/" + id;
    }

    private static boolean isForTeam(JsonNode request) {
        return request.path("kind").asString().equals("team");
    }

    private static String what(JsonNode request) {
        return isForTeam(request)
                ? "to become a team"
                : Texts.joined(request.path("privileges")) + " of "
                        + request.path("module").asString();
    }

    private static String state(JsonNode request) {
        String end = Texts.moment(request.path("endsAt"), "");
        return request.path("state").asString() + (end.isEmpty() ? "" : " until " + end);
    }

    /** {@code ./tidy request list} */
    @Command(
            name = "list",
            description = "List what you may answer: first what waits.",
            footer = {"", "Example:", "  ./tidy request list --json"})
    static final class ListCommand extends ServiceCommand {

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            JsonNode answer = service().desk("/desk/requests");
            if (json.print(answer, out())) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            for (JsonNode request : answer.path("requests")) {
                rows.add(List.of(
                        request.path("id").asString(),
                        request.path("title").asString(),
                        request.path("client").asString(""),
                        what(request),
                        state(request),
                        Texts.moment(request.path("askedAt"), ""),
                        request.path("decidedBy").asString("")));
            }
            if (rows.isEmpty()) {
                out().println("Nobody asks for anything that you may answer, and nobody did.");
                return 0;
            }
            out().print(Table.draw(
                    List.of("Request", "Team", "Application", "Asks for", "State (UTC)", "Asked (UTC)", "Answered by"),
                    SourceCommand.left(7),
                    rows));
            return 0;
        }
    }

    /** A command that does something with one request. */
    abstract static class OneCommand extends ServiceCommand {

        @Parameters(paramLabel = "REQUEST", description = "Its number, as 'request list' shows it.")
        private long id;

        @Mixin
        private final JsonOption json = new JsonOption();

        long id() {
            return id;
        }

        JsonOption json() {
            return json;
        }

        JsonNode answered(Map<String, Object> answer) {
            return Service.json(Service.expectSuccess(service().put(at(id) + "/answer", answer)));
        }

        void printTold(JsonNode answered) {
            JsonNode request = answered.path("request");
            out().println(
                            answered.path("mailed").asBoolean()
                                    ? request.path("contact").asString() + " is told by mail."
                                    : "No mail server is set, so tell "
                                            + request.path("contact").asString() + ".");
        }
    }

    /** {@code ./tidy request show 7} */
    @Command(
            name = "show",
            description = "Show who asks, what for, and why.",
            footer = {"", "Example:", "  ./tidy request show 7"})
    static final class ShowCommand extends OneCommand {

        @Override
        public Integer call() {
            JsonNode request = service().desk(at(id()));
            if (json().print(request, out())) {
                return 0;
            }
            out().println(Ansi.AUTO.string(
                    "@|bold Request " + id() + "|@  " + request.path("state").asString()));
            said("Team", request.path("title").asString());
            said("Application", request.path("client").asString(""));
            said("Asks for", what(request));
            said("Reason", request.path("reason").asString().indent(15).strip());
            said(
                    "Asked by",
                    request.path("askedBy").asString() + ", "
                            + request.path("contact").asString() + ", from "
                            + request.path("address").asString() + ", " + Texts.moment(request.path("askedAt"), "")
                            + " UTC");
            if (request.has("decidedBy")) {
                said(
                        "Answered by",
                        request.path("decidedBy").asString() + ", " + Texts.moment(request.path("decidedAt"), "")
                                + " UTC");
                said("Words", request.path("words").asString(""));
                said("Ends", Texts.moment(request.path("endsAt"), ""));
            }
            return 0;
        }

        private void said(String what, String words) {
            if (!words.isEmpty()) {
                out().printf("  %-13s%s%n", what, words);
            }
        }
    }

    /** {@code ./tidy request allow 7} */
    @Command(
            name = "allow",
            description = "Give what is asked for, or a part of it.",
            footer = {
                "",
                "Examples:",
                "  ./tidy request allow 7 --ends 2031-09-30",
                "  ./tidy request allow 8 --only moorings.read --words \"Booking needs a contract first\"",
                "  ./tidy request allow 9 --team harbour-apps"
            })
    static final class AllowCommand extends OneCommand {

        @Mixin
        private final EndsOption ends = new EndsOption();

        @Option(
                names = "--only",
                paramLabel = "PRIVILEGE",
                description = "Give this one only; may be repeated. All that is asked for unless given.")
        private List<String> only = new ArrayList<>();

        @Option(
                names = "--team",
                paramLabel = "NAME",
                description = "The name of a team that is asked for; made of how it is called unless given.")
        private @Nullable String team;

        @Option(names = "--words", paramLabel = "TEXT", description = "What to tell whoever asked.")
        private @Nullable String words;

        @Override
        public Integer call() {
            JsonNode asked = service().desk(at(id()));
            Map<String, Object> answer = new LinkedHashMap<>();
            answer.put("answer", "allow");
            ends.put(answer);
            if (!only.isEmpty()) {
                answer.put("privileges", only);
            }
            if (words != null) {
                answer.put("words", words);
            }
            if (isForTeam(asked)) {
                answer.put("team", team == null ? asked.path("proposedName").asString("") : team);
            } else if (team != null) {
                answer.put("team", team);
            }
            JsonNode answered = answered(answer);
            if (json().print(answered, out())) {
                return 0;
            }
            JsonNode request = answered.path("request");
            if (isForTeam(request)) {
                out().println(request.path("title").asString() + " is the team "
                        + request.path("team").asString()
                        + ". With this link, shown this once, the first of its people joins it within seven days:");
                out().println(answered.path("link").asString());
            } else {
                out().println(request.path("client").asString() + " may "
                        + Texts.joined(request.path("privileges"))
                        + (request.has("endsAt") ? " until " + Texts.moment(request.path("endsAt"), "") + " UTC" : "")
                        + ".");
            }
            printTold(answered);
            return 0;
        }
    }

    /** {@code ./tidy request refuse 7 --words TEXT} */
    @Command(
            name = "refuse",
            description = "Refuse what is asked for, and say why.",
            footer = {"", "Example:", "  ./tidy request refuse 7 --words \"Use moorings/v2, please\""})
    static final class RefuseCommand extends OneCommand {

        @Option(names = "--words", paramLabel = "TEXT", required = true, description = "Why; whoever asked reads it.")
        private String words = "";

        @Override
        public Integer call() {
            JsonNode answered = answered(Map.of("answer", "refuse", "words", words));
            if (!json().print(answered, out())) {
                out().println("Request " + id() + " is refused.");
                printTold(answered);
            }
            return 0;
        }
    }
}
