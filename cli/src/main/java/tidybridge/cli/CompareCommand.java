package tidybridge.cli;

import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tidybridge.core.compare.Comparison;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.compare.TextComparison;
import tidybridge.core.definition.Version;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** {@code ./tidy compare moorings/1.0.0 moorings/v1} */
@Command(
        name = "compare",
        description = {
            "Tell what callers of an earlier text meet in a later one, and which lines differ.",
            "Without EARLIER and LATER, each module of the folder is compared with what it would take the place of."
        },
        footer = {
            "",
            "EARLIER and LATER are a release (moorings/1.0.0), what is live (moorings/v1), a draft (moorings/v1/draft), or a folder with a workspace.yaml.",
            "The exit code is 1 when something breaks callers, or the version does not tell how much changes.",
            "What breaks callers, what is safe and what is internal: docs/compatibility.md.",
            "",
            "Example:",
            "  ./tidy compare --folder demo/workspace",
            "  ./tidy compare moorings/1.0.0 moorings/v1",
            "  ./tidy compare moorings/v1 moorings/v1 --earlier-at production --later-at test"
        })
final class CompareCommand extends ServiceCommand {

    @Parameters(index = "0", arity = "0..1", paramLabel = "EARLIER", description = "What callers know.")
    private @Nullable String earlier;

    @Parameters(index = "1", arity = "0..1", paramLabel = "LATER", description = "What they would meet.")
    private @Nullable String later;

    @Option(
            names = "--earlier-at",
            paramLabel = "NAME",
            description = "The server of EARLIER, by the name you signed in with.")
    private @Nullable String earlierAt;

    @Option(
            names = "--later-at",
            paramLabel = "NAME",
            description = "The server of LATER, by the name you signed in with.")
    private @Nullable String laterAt;

    @Option(names = "--brief", description = "Leave the lines that differ away.")
    private boolean brief;

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        if (earlier == null) {
            return lookAhead();
        }
        if (later == null) {
            throw CommandFailure.mistyped(
                    "Name what to compare it with too, as in './tidy compare " + ShellWord.of(earlier)
                            + " moorings/v1', or leave both away to compare the folder with what is live.");
        }
        try (Service one = server(earlierAt);
                Service other = server(laterAt)) {
            return compare(ComparedText.read(earlier, one), ComparedText.read(later, other));
        }
    }

    private Service server(@Nullable String name) {
        return name == null ? service() : ServiceOptions.named(name);
    }

    /** What publishing the folder would mean. */
    private int lookAhead() {
        PrintWriter out = out();
        CheckedWorkspace checked = folder.readGood(out);
        HttpResponse<byte[]> response = service().post("/desk/comparisons", checked.request());
        folder.refuseUnfit(response, out);
        JsonNode answer = Service.json(Service.expectSuccess(response));
        boolean objected = answer.path("modules").valueStream().anyMatch(module -> module.has("objection"));
        if (json.print(answer, out)) {
            return objected ? 1 : 0;
        }
        Map<String, ComparedText> texts = new LinkedHashMap<>();
        ComparedText.of(checked, answer)
                .forEach(text -> texts.put(text.contract().identity(), text));
        for (JsonNode module : answer.path("modules")) {
            print(
                    module,
                    texts.get(module.path("name").asString() + "/v"
                            + module.path("major").asInt()));
        }
        return objected ? 1 : 0;
    }

    private void print(JsonNode module, @Nullable ComparedText text) {
        String name = module.path("name").asString();
        String version = module.path("version").asString();
        String before = module.path("comparedWith").asString("");
        if (before.isEmpty()) {
            out().println(Ansi.AUTO.string("@|bold " + name + " " + version + "|@") + "  is the first of its name.");
            return;
        }
        List<DifferenceNote> differences = DifferencePrinter.read(module.path("differences"));
        head(name, before, version, differences);
        DifferencePrinter printer = new DifferencePrinter(out());
        printer.print(differences);
        if (text != null && !brief) {
            JsonNode release = service().desk("/desk/releases/" + Texts.encoded(name) + "/" + before);
            printer.print(TextComparison.of(ComparedText.text(release.path("text")), text.text()));
        }
        if (module.has("objection")) {
            out().println();
            out().println("  " + module.path("objection").asString());
        }
        out().println();
    }

    private void head(String name, String before, String now, List<DifferenceNote> differences) {
        out().println(Ansi.AUTO.string("@|bold " + name + "  " + before + " -> " + now + "|@  ")
                + DifferencePrinter.counted(differences));
    }

    private int compare(List<ComparedText> before, List<ComparedText> now) {
        List<Map<String, Object>> told = new ArrayList<>();
        boolean breaks = false;
        for (ComparedText one : before) {
            ComparedText other = ComparedText.like(one, now);
            if (other == null) {
                continue;
            }
            Comparison comparison =
                    Comparison.of(one.contract(), other.contract()).withTexts(one.text(), other.text());
            TextComparison text = TextComparison.of(one.text(), other.text());
            breaks |= comparison.isBreaking();
            told.add(told(one, other, comparison, text));
            if (!json.isWanted()) {
                print(one, other, comparison, text);
            }
        }
        if (told.isEmpty()) {
            throw CommandFailure.refused("Nothing on one side is the same module as something on the other.");
        }
        if (json.isWanted()) {
            out().println(JsonMapper.shared()
                    .writerWithDefaultPrettyPrinter()
                    .writeValueAsString(Map.of("modules", told)));
        }
        return breaks ? 1 : 0;
    }

    private void print(ComparedText one, ComparedText other, Comparison comparison, TextComparison text) {
        List<DifferenceNote> differences = DifferenceNote.of(comparison);
        head(one.contract().module(), one.label(), other.label(), differences);
        DifferencePrinter printer = new DifferencePrinter(out());
        printer.print(differences);
        if (!brief) {
            printer.print(text);
        }
        out().println();
    }

    private static Map<String, Object> told(
            ComparedText one, ComparedText other, Comparison comparison, TextComparison text) {
        Map<String, Object> told = new LinkedHashMap<>();
        Version before = one.contract().version();
        told.put("name", one.contract().module());
        told.put("from", before.toString());
        told.put("to", other.contract().version().toString());
        told.put("next", comparison.nextAfter(before).toString());
        told.put("breaks", comparison.isBreaking());
        told.put("differences", DifferenceNote.of(comparison));
        told.put("files", text.files());
        return told;
    }
}
