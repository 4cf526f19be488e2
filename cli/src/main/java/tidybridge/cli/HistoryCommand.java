package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy history moorings} */
@Command(
        name = "history",
        description = "List the releases of a module, what each changed for callers, and what was live when.",
        footer = {"", "Example:", "  ./tidy history moorings"})
final class HistoryCommand extends ServiceCommand {

    @Parameters(index = "0", paramLabel = "MODULE", description = "The module's name, such as moorings.")
    private String module = "";

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        JsonNode answer = service().desk("/desk/releases/" + Texts.encoded(module));
        if (json.print(answer, out())) {
            return 0;
        }
        List<List<String>> releases = new ArrayList<>();
        for (JsonNode release : answer.path("releases")) {
            releases.add(List.of(
                    release.path("version").asString(),
                    release.path("live").asBoolean() ? "live" : "",
                    Texts.moment(release.path("publishedAt"), ""),
                    release.path("publishedBy").asString(),
                    differences(release),
                    release.path("note").asString("")));
            if (release.has("breaking")) {
                String reason = release.path("breaking").asString();
                releases.add(List.of("", "", "", "", "", "Breaks callers: " + reason));
            }
        }
        out().print(Table.draw(
                List.of("Version", "State", "Published (UTC)", "By", "For callers", "Note"),
                SourceCommand.left(6),
                releases));
        out().println();
        answer.path("releases").forEach(this::printDrift);
        List<List<String>> changes = new ArrayList<>();
        for (JsonNode change : answer.path("changes")) {
            changes.add(List.of(
                    Texts.moment(change.path("at"), ""),
                    module + "/v" + change.path("major").asInt(),
                    became(change),
                    change.path("by").asString(),
                    change.path("reason").asString("")));
        }
        out().print(Table.draw(
                List.of("When (UTC)", "Address", "What", "By", "Because"), SourceCommand.left(5), changes));
        return 0;
    }

    private void printDrift(JsonNode release) {
        JsonNode notes = release.path("drift");
        if (!notes.isEmpty()) {
            out().println("The database of " + release.path("version").asString()
                    + " is no longer what it was published against:");
            notes.forEach(note -> DriftCommand.print(note, out()));
            out().println();
        }
    }

    private static String differences(JsonNode release) {
        return release.has("differences")
                ? DifferencePrinter.counted(DifferencePrinter.read(release.path("differences"))) + " since "
                        + release.path("comparedWith").asString()
                : "";
    }

    private static String became(JsonNode change) {
        String version = change.path("version").asString("");
        return switch (change.path("kind").asString()) {
            case "publish" -> version + " published";
            case "revert" -> version + " live again";
            default -> "retired";
        };
    }
}
