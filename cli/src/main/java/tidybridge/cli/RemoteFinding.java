package tidybridge.cli;

import java.util.List;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Severity;
import tidybridge.core.text.Place;
import tools.jackson.databind.JsonNode;

/** Reads findings as the service sends them. */
final class RemoteFinding {

    private RemoteFinding() {}

    /** Those of an answer that are worth reading now: no advice, and nothing that the text accepts. */
    static List<Finding> standing(JsonNode answer) {
        return answer.path("findings")
                .valueStream()
                .map(RemoteFinding::read)
                .filter(finding -> !finding.isAccepted() && finding.severity() != Severity.ADVICE)
                .toList();
    }

    static Finding read(JsonNode node) {
        String label = node.path("code").asString();
        Code code = Code.labelled(label)
                .orElseThrow(() -> CommandFailure.refused("The service found '" + label
                        + "', which this command line does not know; use the one of the service's version."));
        return new Finding(
                code,
                new Place(
                        node.path("file").asString(),
                        node.path("line").asInt(),
                        node.path("column").asInt()),
                node.path("message").asString(),
                node.path("remedy").asString(),
                node.has("operation") ? node.path("operation").asString() : null,
                node.has("accepted") ? node.path("accepted").asString() : null);
    }
}
