package tidybridge.cli;

import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

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
