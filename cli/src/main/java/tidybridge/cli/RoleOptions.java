package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** Which roles somebody is given or loses, and whether what they sign in with counts. */
final class RoleOptions {

    @Option(names = "--give", paramLabel = "ROLE", description = "Give this role; may be repeated.")
    private List<String> given = new ArrayList<>();

    @Option(names = "--take", paramLabel = "ROLE", description = "Take this role away; may be repeated.")
    private List<String> taken = new ArrayList<>();

    @ArgGroup
    private final Switch turned = new Switch();

    /** One of the two. */
    static final class Switch {
        @Option(names = "--off", description = "Refuse every credential of theirs from now on.")
        private boolean off;

        @Option(names = "--on", description = "Let them in again.")
        private boolean on;
    }

    /** Writes what is wanted into a request, with what was before where nothing is said. */
    void put(JsonNode before, Map<String, Object> request) {
        request.put("roles", Texts.changed(before.path("roles"), given, taken));
        request.put(
                "disabled", turned.off || !turned.on && before.path("disabled").asBoolean(false));
    }
}
