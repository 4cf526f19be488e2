package tidybridge.cli;

import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** Why somebody does what lets callers down. */
final class Reason {

    @Option(
            names = "--because",
            paramLabel = "TEXT",
            description = "Why; it is recorded, and told to client teams. Needed where callers are let down.")
    private @Nullable String text;

    @Nullable
    String text() {
        return text;
    }
}
