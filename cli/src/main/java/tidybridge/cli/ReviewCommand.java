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
import tidybridge.core.compare.TextComparison;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy review list|show|approve|decline|withdraw|publish} */
@Command(
        name = "review",
        description = "What waits for a second person's approval before it is published.",
        subcommands = {
            ReviewCommand.ListCommand.class,
            ReviewCommand.ShowCommand.class,
            ReviewCommand.ApproveCommand.class,
            ReviewCommand.DeclineCommand.class,
            ReviewCommand.WithdrawCommand.class,
            ReviewCommand.PublishReviewedCommand.class
        },
        footer = {
            "",
            "A module asks for it with 'review: true' in its module.yaml. './tidy publish --ask-review' asks for a review.",
            "",
            "Examples:",
            "  ./tidy review list",
            "  ./tidy review show 12",
            "  ./tidy review approve 12 --words \"Tried with the harbour office\""
        })
final class ReviewCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    private static String label(JsonNode review) {
        return review.path("name").asString() + " " + review.path("version").asString();
    }

    private static String at(long id) {
        return "/desk/reviews/" + id;
    }

    /** {@code ./tidy review list} */
    @Command(
            name = "list",
            description = "List the newest reviews, those that wait first.",
            footer = {"", "Example:", "  ./tidy review list --json"})
    static final class ListCommand extends ServiceCommand {

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            JsonNode answer = service().desk("/desk/reviews");
            if (json.print(answer, out())) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            for (JsonNode review : answer.path("reviews")) {
                rows.add(List.of(
                        review.path("id").asString(),
                        label(review),
                        review.path("state").asString(),
                        review.path("askedBy").asString(),
                        Texts.moment(review.path("askedAt"), ""),
                        review.path("decidedBy").asString(""),
                        review.path("words").asString(review.path("note").asString(""))));
            }
            if (rows.isEmpty()) {
                out().println(
                                "Nothing waits for a review, and nothing did. './tidy publish --ask-review' asks for one.");
                return 0;
            }
            out().print(Table.draw(
                    List.of("Review", "Of", "State", "Asked by", "Asked (UTC)", "Decided by", "Words"),
                    SourceCommand.left(7),
                    rows));
            return 0;
        }
    }

    /** A command that does something with one review. */
    abstract static class OneCommand extends ServiceCommand {

        @Parameters(paramLabel = "REVIEW", description = "Its number, as 'review list' shows it.")
        private long id;

        @Mixin
        private final JsonOption json = new JsonOption();

        long id() {
            return id;
        }

        JsonOption json() {
            return json;
        }

        /** Decides on the text that is there now. */
        int decide(String decision, @Nullable String words, String done) {
            JsonNode shown = service().desk(at(id)).path("review");
            Map<String, Object> request = new LinkedHashMap<>();
            request.put("decision", decision);
            request.put("hash", shown.path("hash").asString());
            if (words != null) {
                request.put("words", words);
            }
            JsonNode review = Service.json(Service.expectSuccess(service().put(at(id) + "/decision", request)));
            if (!json.print(review, out())) {
                out().println(label(review) + " is " + done);
            }
            return 0;
        }
    }

    /** {@code ./tidy review show 12} */
    @Command(
            name = "show",
            description =
                    "Show what a review is about: what callers would meet, what was found, and which lines differ.",
            footer = {"", "Example:", "  ./tidy review show 12"})
    static final class ShowCommand extends OneCommand {

        @Override
        public Integer call() {
            JsonNode answer = service().desk(at(id()));
            if (json().print(answer, out())) {
                return 0;
            }
            JsonNode review = answer.path("review");
            String before = review.path("comparedWith").asString("");
            out().println(Ansi.AUTO.string("@|bold " + label(review) + "|@  review " + id() + ", "
                    + review.path("state").asString()
                    + (before.isEmpty() ? ", the first of its name" : ", after " + before)));
            said(
                    "Asked by ",
                    review.path("askedBy").asString() + ", " + Texts.moment(review.path("askedAt"), "") + " UTC");
            said("Note: ", review.path("note").asString(""));
            said("Breaks callers: ", review.path("breaking").asString(""));
            said("From ", review.path("from").asString(""));
            if (review.has("decidedBy")) {
                said(
                        "Decided by ",
                        review.path("decidedBy").asString() + ", " + Texts.moment(review.path("decidedAt"), "")
                                + " UTC");
                said("Words: ", review.path("words").asString(""));
            }
            if (!answer.path("standing").asBoolean()
                    && !review.path("state").asString().equals("published")) {
                out().println("  Something else went live since; it can only be asked for anew.");
            }
            out().println();
            DifferencePrinter printer = new DifferencePrinter(out());
            printer.print(DifferencePrinter.read(answer.path("differences")));
            for (JsonNode finding : answer.path("findings")) {
                out().println("  " + finding.path("severity").asString() + " "
                        + finding.path("code").asString() + ": "
                        + finding.path("message").asString());
            }
            printer.print(text(review, answer, before));
            return 0;
        }

        private void said(String what, String words) {
            if (!words.isEmpty()) {
                out().println("  " + what + words);
            }
        }

        private TextComparison text(JsonNode review, JsonNode answer, String before) {
            ModuleText now = ComparedText.text(answer.path("text"));
            return TextComparison.of(
                    before.isEmpty() || Version.parse(before).isEmpty()
                            ? new ModuleText(now.folder(), Map.of())
                            : ComparedText.text(service()
                                    .desk("/desk/releases/"
                                            + Texts.encoded(review.path("name").asString()) + "/" + before)
                                    .path("text")),
                    now);
        }
    }

    /** {@code ./tidy review approve 12} */
    @Command(
            name = "approve",
            description = "Approve a review that somebody else asked for; its text may be published then.",
            footer = {
                "",
                "Read it first with './tidy review show'.",
                "",
                "Example:",
                "  ./tidy review approve 12 --words \"Tried it\""
            })
    static final class ApproveCommand extends OneCommand {

        @Option(names = "--words", paramLabel = "TEXT", description = "What to say of it.")
        private @Nullable String words;

        @Override
        public Integer call() {
            return decide("approve", words, "approved; './tidy review publish " + id() + "' publishes it.");
        }
    }

    /** {@code ./tidy review decline 12 --words TEXT} */
    @Command(
            name = "decline",
            description = "Decline a review, and say why.",
            footer = {"", "Example:", "  ./tidy review decline 12 --words \"The index is missing\""})
    static final class DeclineCommand extends OneCommand {

        @Option(names = "--words", paramLabel = "TEXT", required = true, description = "Why; its author reads it.")
        private String words = "";

        @Override
        public Integer call() {
            return decide("decline", words, "declined.");
        }
    }

    /** {@code ./tidy review withdraw 12} */
    @Command(
            name = "withdraw",
            description = "Take a review back that nobody needs any more.",
            footer = {"", "Example:", "  ./tidy review withdraw 12"})
    static final class WithdrawCommand extends ServiceCommand {

        @Parameters(paramLabel = "REVIEW", description = "Its number.")
        private long id;

        @Override
        public Integer call() {
            Service.expectSuccess(service().delete(at(id)));
            out().println("Review " + id + " is taken back.");
            return 0;
        }
    }

    /** {@code ./tidy review publish 12} */
    @Command(
            name = "publish",
            description = "Publish the text of an approved review.",
            footer = {"", "Example:", "  ./tidy review publish 12"})
    static final class PublishReviewedCommand extends OneCommand {

        @Override
        public Integer call() {
            JsonNode answer =
                    posted("/desk/releases", Map.of("review", id(), "by", System.getProperty("user.name", "unknown")));
            if (!json().print(answer, out())) {
                JsonNode module = answer.path("modules").path(0);
                out().println(module.path("outcome").asString() + "  " + label(module) + " at "
                        + module.path("basePath").asString());
            }
            return 0;
        }
    }
}
