package tidybridge.cli;

import tidybridge.core.finding.Code;
import tidybridge.core.finding.Finding;
import tidybridge.core.text.Place;
import tools.jackson.databind.JsonNode;

/** Reads findings as the service sends them. */
final class RemoteFinding {

    private RemoteFinding() {}

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
