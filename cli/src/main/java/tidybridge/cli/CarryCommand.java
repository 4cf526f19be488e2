package tidybridge.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tidybridge.core.compare.CatalogComparison;
import tidybridge.core.compare.CatalogDifference;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.contract.CatalogFacts;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy carry moorings/v1 --from test --to production} */
@Command(
        name = "carry",
        description = {
            "Publish on one server what is released on another, text for text.",
            "It shows first what callers there would meet and what the database there has in another form, and asks."
        },
        footer = {
            "",
            "MODULE is what is live (moorings/v1) or a release (moorings/1.2.0). One of --from and --to may be left out: the usual service is meant.",
            "Nothing is published when the database there lacks what the text needs.",
            "",
            "Example:",
            "  ./tidy carry moorings/v1 --from test --to production --note \"Tested by the harbour office\""
        })
final class CarryCommand extends ServiceCommand {

    @Parameters(index = "0", paramLabel = "MODULE", description = "A release, or what is live.")
    private String module = "";

    @Option(names = "--from", paramLabel = "NAME", description = "The server it is on, by the name you signed in with.")
    private @Nullable String from;

    @Option(names = "--to", paramLabel = "NAME", description = "The server it goes to, by the name you signed in with.")
    private @Nullable String to;

    @Mixin
    private final PublishWords words = new PublishWords();

    @Option(names = "--yes", description = "Do not ask.")
    private boolean yes;

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        if (from == null && to == null) {
            throw CommandFailure.mistyped("Name the server it is on with --from, or the one it goes to with --to.");
        }
        try (Service one = from == null ? service() : ServiceOptions.named(from);
                Service other = to == null ? service() : ServiceOptions.named(to)) {
            return carry(one, other);
        }
    }

    private int carry(Service here, Service there) {
        ReleasedText released = ReleasedText.read(module, here);
        Map<String, Object> request = new LinkedHashMap<>();
        request.put(
                "modules",
                List.of(Map.of(
                        "folder",
                        released.text().folder(),
                        "files",
                        released.text().files())));
        boolean quiet = json.isWanted();
        List<CatalogDifference> lacking = lacking(released, there, request);
        HttpResponse<byte[]> looked = there.post("/desk/comparisons", request);
        if (looked.statusCode() == FolderOption.UNFIT) {
            printLacking(lacking);
            new FindingPrinter(Path.of(""), out()).print(RemoteFinding.standing(Service.json(looked)));
            throw CommandFailure.refused("The database of " + there.address() + " lacks what " + released.label()
                    + " needs; nothing was published.");
        }
        JsonNode prospect =
                Service.json(Service.expectSuccess(looked)).path("modules").get(0);
        if (!quiet) {
            print(released, there, prospect);
            printLacking(lacking);
        }
        if (!yes && !isWanted(there)) {
            throw CommandFailure.refused("Nothing was published.");
        }
        request.put("from", here.address() + " " + released.label());
        words.addTo(request);
        HttpResponse<byte[]> response = there.post(words.path(), request);
        if (!quiet) {
            PublishCommand.explain(response, out());
        }
        JsonNode answer = Service.json(Service.expectSuccess(response));
        if (json.print(answer, out())) {
            return 0;
        }
        if (words.asksReview()) {
            PublishWords.printAsked(answer, there, out());
        } else {
            JsonNode published = answer.path("modules").get(0);
            out().println(published.path("outcome").asString() + "  " + released.label() + " at " + there.address()
                    + published.path("basePath").asString());
        }
        return 0;
    }

    /** What the database there has in another form than the one it was published against. */
    private static List<CatalogDifference> lacking(ReleasedText released, Service there, Map<String, Object> request) {
        String counted = released.catalog();
        if (counted == null) {
            return List.of();
        }
        JsonNode held = Service.json(Service.expectSuccess(there.post("/desk/comparisons/catalogs", request)));
        return CatalogComparison.of(
                        CatalogFacts.read(counted),
                        CatalogFacts.read(
                                held.path("catalogs").get(0).path("catalog").toString()))
                .differences();
    }

    private void print(ReleasedText released, Service there, JsonNode prospect) {
        List<DifferenceNote> differences = DifferencePrinter.read(prospect.path("differences"));
        String before = prospect.path("comparedWith").asString("");
        out().println(Ansi.AUTO.string("@|bold " + released.label() + "|@  to " + there.address() + ", "
                + (before.isEmpty()
                        ? "the first of its name there"
                        : "where " + before + " is: " + DifferencePrinter.counted(differences))));
        new DifferencePrinter(out()).print(differences);
        if (prospect.has("objection")) {
            out().println("  " + prospect.path("objection").asString());
        }
    }

    private void printLacking(List<CatalogDifference> lacking) {
        if (!lacking.isEmpty()) {
            out().println("  The database there is not the one it was published against:");
            lacking.forEach(difference -> out().println("    " + difference.words()));
        }
    }

    /** Whoever cannot be asked has not said yes. */
    private boolean isWanted(Service there) {
        PrintWriter out = out();
        out.print(
                (words.asksReview() ? "Ask for its review at " : "Publish it at ") + there.address() + "? Type yes: ");
        out.flush();
        try {
            BufferedReader input =
                    new BufferedReader(new InputStreamReader(Surroundings.here().in(), StandardCharsets.UTF_8));
            return "yes".equalsIgnoreCase(String.valueOf(input.readLine()).strip());
        } catch (IOException e) {
            return false;
        }
    }
}
