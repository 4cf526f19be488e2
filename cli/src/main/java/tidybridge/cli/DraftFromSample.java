package tidybridge.cli;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code ./tidy draft from sample waterways berths.json} */
@Command(
        name = "sample",
        description = {
            "Make the text of a module from a sample of an answer in JSON: an object, a list of objects, or an object around such a list.",
            "Fields and types are told from all rows and matched to a table; the usual operations on its rows are made."
        },
        footer = {
            "",
            "Examples:",
            "  ./tidy draft from sample waterways berths.json --public",
            "  ./tidy draft from sample waterways answer.json --path /places --match 'GET /places=berth' --column 'GET /places: place=berth_no'"
        })
final class DraftFromSample extends DraftFromCommand {

    @Parameters(index = "0", paramLabel = "SOURCE", description = "The source that its statements run against.")
    @SuppressWarnings("NullAway.Init")
    private String source;

    @Parameters(index = "1", paramLabel = "FILE", description = "The sample's file, or its address.")
    @SuppressWarnings("NullAway.Init")
    private String sample;

    @Option(
            names = "--path",
            paramLabel = "PATH",
            description = "Where its rows are answered, such as /berths; the file's name unless given.")
    private @Nullable String path;

    @Mixin
    private final MatchOptions matches = new MatchOptions();

    @Override
    public Integer call() {
        String text = DocumentText.read(sample);
        String first = DocumentText.name(sample);
        List<Map<String, Object>> chosen = matches.chosen(some -> made(source, first, body(text, first, some)));
        return make(source, first, body(text, first, chosen));
    }

    private Map<String, Object> body(String text, String name, List<Map<String, Object>> matches) {
        String at = path == null ? "/" + name.replaceAll("[^A-Za-z0-9._~-]+", "-") : path;
        return Map.of("document", Map.of("kind", "sample", "text", text, "path", at, "matches", matches));
    }
}
