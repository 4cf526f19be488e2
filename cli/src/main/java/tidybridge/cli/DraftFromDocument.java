package tidybridge.cli;

import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** {@code ./tidy draft from document waterways openapi.yaml} */
@Command(
        name = "document",
        description = {
            "Make the text of a module from an OpenAPI document (3.0 or 3.1): its routes, parameters, answers and statuses.",
            "Each operation is matched to a table by the names of its fields; --match and --column say it otherwise.",
            "What the document tells of an answer becomes its 'promise', and './tidy check' finds what the statement does not keep."
        },
        footer = {
            "",
            "An address is fetched by this command, not by the service. What stands in other documents is not read.",
            "",
            "Examples:",
            "  ./tidy draft from document waterways stays.yaml --needs stays.read",
            "  ./tidy draft from document waterways https://marrowby.example/openapi.json --write --folder ~/bridge",
            "  ./tidy draft from document waterways stays.yaml --match 'GET /moored=berth' --column 'GET /moored: place=berth_no'",
            "  ./tidy draft from document waterways stays.yaml --match 'POST /stays=' # leaves its statement to be written"
        })
final class DraftFromDocument extends DraftFromCommand {

    @Parameters(index = "0", paramLabel = "SOURCE", description = "The source that its statements run against.")
    @SuppressWarnings("NullAway.Init")
    private String source;

    @Parameters(index = "1", paramLabel = "FILE", description = "The document's file, or its address.")
    @SuppressWarnings("NullAway.Init")
    private String document;

    @Mixin
    private final MatchOptions matches = new MatchOptions();

    @Override
    public Integer call() {
        String text = DocumentText.read(document);
        String first = DocumentText.name(document);
        List<Map<String, Object>> chosen = matches.chosen(some -> made(source, first, body(text, some)));
        return make(source, first, body(text, chosen));
    }

    private static Map<String, Object> body(String text, List<Map<String, Object>> matches) {
        return Map.of("document", Map.of("kind", "openapi", "text", text, "matches", matches));
    }
}
