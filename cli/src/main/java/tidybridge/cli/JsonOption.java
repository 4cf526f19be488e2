package tidybridge.cli;

import java.io.PrintWriter;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** Whether programs or people read the output. */
final class JsonOption {

    @Option(names = "--json", description = "Print JSON.")
    private boolean wanted;

    boolean isWanted() {
        return wanted;
    }

    /** Prints the service's answer as it is, when that is wanted; true when it was. */
    boolean print(JsonNode answer, PrintWriter out) {
        if (wanted) {
            out.println(answer.toPrettyString());
        }
        return wanted;
    }
}
