package tidybridge.cli;

import java.util.LinkedHashMap;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy announce moorings --title TEXT --words TEXT} */
@Command(
        name = "announce",
        description =
                "Tell those who call a module something: it stands in its news, and the teams that hold privileges of it are told.",
        footer = {
            "",
            "What goes live and what is retired is told by itself.",
            "",
            "Example:",
            "  ./tidy announce moorings --title \"No bookings on 1 May\" --words \"The basins are drained from 06:00 to 18:00.\""
        })
final class AnnounceCommand extends ServiceCommand {

    @Parameters(paramLabel = "MODULE", description = "The module's name, such as moorings.")
    @SuppressWarnings("NullAway.Init")
    private String module;

    @Option(names = "--title", paramLabel = "TEXT", required = true, description = "In one line.")
    private String title = "";

    @Option(
            names = "--words",
            paramLabel = "TEXT",
            required = true,
            description = "The text, of up to 4,000 characters.")
    private String words = "";

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        Map<String, Object> request = new LinkedHashMap<>();
        request.put("module", module);
        request.put("title", title);
        request.put("words", words);
        JsonNode said = posted("/desk/announcements", request);
        if (!json.print(said, out())) {
            out().println("It stands in the news of " + module + ": "
                    + service().at("/api/" + module + "/changes"));
            out().println(
                            said.path("teams").isEmpty()
                                    ? "No team holds privileges of it."
                                    : "Teams that are told: " + Texts.joined(said.path("teams")));
        }
        return 0;
    }
}
