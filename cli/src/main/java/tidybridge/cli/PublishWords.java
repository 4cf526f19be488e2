package tidybridge.cli;

import java.io.PrintWriter;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** What whoever publishes says of it. */
final class PublishWords {

    @Option(
            names = "--note",
            paramLabel = "TEXT",
            description = "What to tell of the release; its history and client teams show it.")
    private @Nullable String note;

    @Option(
            names = "--breaking",
            paramLabel = "REASON",
            description = "Publish although callers break, and tell them why.")
    private @Nullable String breaking;

    @Option(names = "--ask-review", description = "Publish nothing yet: ask a second person to approve what needs it.")
    private boolean askReview;

    /** True when nothing is to be published yet. */
    boolean asksReview() {
        return askReview;
    }

    /** Where a request goes. */
    String path() {
        return askReview ? "/desk/reviews" : "/desk/releases";
    }

    /** Prints what became of asking for the modules of an answer. */
    static void printAsked(JsonNode answer, Service service, PrintWriter out) {
        for (JsonNode module : answer.path("modules")) {
            String label = module.path("name").asString() + " "
                    + module.path("version").asString();
            JsonNode review = module.path("review");
            out.println(
                    review.isMissingNode()
                            ? "no review     " + label + " needs none; publish it without --ask-review"
                            : String.format("%-13s ", review.path("state").asString()) + label + ", review "
                                    + review.path("id").asLong() + ": "
                                    + service.at("/reviews/" + review.path("id").asLong()));
        }
    }

    /** Adds what was said to a request. */
    void addTo(Map<String, Object> request) {
        if (note != null) {
            request.put("note", note);
        }
        if (breaking != null) {
            request.put("breaking", breaking);
        }
    }
}
