package tidybridge.cli;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tidybridge.core.compare.TextMerge;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Workspace;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy pull moorings/v1} */
@Command(
        name = "pull",
        description = {
            "Write a draft of the service into a workspace, byte for byte; without a draft, what is live.",
            "What was changed in the folder and not pushed is kept: --merge brings both together, --over throws it away."
        },
        footer = {
            "",
            "Where both changed the same lines, both are written, between marks that somebody has to settle; the exit code is 1 then.",
            "",
            "Examples:",
            "  ./tidy pull moorings/v1 --folder ~/bridge",
            "  ./tidy pull moorings/v1 --version 1.2.0 --over"
        })
final class PullCommand extends ServiceCommand {

    private static final int UNKNOWN = 404;

    /** A name that leads nowhere but into the module's folder. */
    private static final Pattern FILE =
            Pattern.compile("([A-Za-z0-9_][A-Za-z0-9_.-]*/)*([A-Za-z0-9_][A-Za-z0-9_.-]*\\.(sql|md)|module\\.yaml)");

    @Parameters(
            index = "0",
            paramLabel = "MODULE",
            description = "The module with its major version, such as moorings/v1.")
    private String module = "";

    @Option(
            names = "--version",
            paramLabel = "VERSION",
            description = "A release in place of the draft, such as 1.2.0.")
    private @Nullable String version;

    @Option(names = "--merge", description = "Bring the folder's changes and the draft's together.")
    private boolean merge;

    @Option(names = "--over", description = "Throw the folder's changes away.")
    private boolean over;

    @Mixin
    private final FolderOption folder = new FolderOption();

    /** What is pulled; the revision is 0 for what is no draft. */
    private record Pulled(ModuleText text, int revision, String label) {}

    @Override
    public Integer call() {
        if (merge && over) {
            throw CommandFailure.mistyped(
                    "--merge keeps the folder's changes and --over throws them away; give one of the two.");
        }
        DraftName name = DraftName.parse(module);
        Pulled pulled = pulled(name);
        refuseStrangeNames(pulled.text());
        ModuleText mine = mine(name);
        Path place = folder.path().resolve(mine == null ? "modules/" + name : mine.folder());
        DraftNote note = DraftNote.read(place, service(), name.toString());
        TextMerge merged = merged(name, mine, note, pulled);
        write(place, mine, merged.text());
        if (pulled.revision() > 0) {
            new DraftNote(service().address().toString(), name.toString(), pulled.revision()).write(place);
        }
        out().println((mine != null && merge ? "merged  " : "pulled  ") + pulled.label() + " into " + place);
        if (!merged.unsettled().isEmpty()) {
            throw CommandFailure.refused("Both changed the same lines in " + String.join(", ", merged.unsettled())
                    + "; look for '" + TextMerge.MARK + "', settle each, and push.");
        }
        return 0;
    }

    private Pulled pulled(DraftName name) {
        if (version != null) {
            ReleasedText release = ReleasedText.read(name.module() + "/" + version, service());
            return new Pulled(release.text(), 0, release.label());
        }
        HttpResponse<byte[]> response = service().get(name.path());
        if (response.statusCode() == UNKNOWN) {
            JsonNode live = service().desk("/desk/releases/live/" + name);
            return new Pulled(ComparedText.text(live), 0, name + " as it is live, since there is no draft of it,");
        }
        JsonNode draft = Service.json(Service.expectSuccess(response));
        int revision = draft.path("revision").asInt();
        return new Pulled(
                ComparedText.text(draft.path("text")),
                revision,
                name + " revision " + revision + " by "
                        + draft.path("changedBy").asString());
    }

    private static void refuseStrangeNames(ModuleText text) {
        for (String file : text.files().keySet()) {
            if (!FILE.matcher(file).matches()) {
                throw CommandFailure.refused("The text holds a file '" + file
                        + "', which is not written: a module has module.yaml, .sql files and guides/*.md.");
            }
        }
    }

    private @Nullable ModuleText mine(DraftName name) {
        if (!Files.isDirectory(folder.path())) {
            return null;
        }
        return folder.read().modules().stream()
                .filter(one -> DraftName.of(one).equals(name))
                .map(Workspace.Module::text)
                .findFirst()
                .orElse(null);
    }

    private TextMerge merged(DraftName name, @Nullable ModuleText mine, @Nullable DraftNote note, Pulled pulled) {
        ModuleText theirs = pulled.text();
        if (mine == null || over || mine.files().equals(theirs.files())) {
            return new TextMerge(theirs, new TreeSet<>());
        }
        ModuleText base = base(name, note);
        if (base != null && base.files().equals(mine.files())) {
            return new TextMerge(theirs, new TreeSet<>());
        }
        if (merge) {
            return TextMerge.of(base == null ? new ModuleText("", Map.of()) : base, mine, theirs);
        }
        throw CommandFailure.refused("The folder has changes of " + name
                + " that are not pushed; --merge brings both together, --over throws the folder's away.");
    }

    /** The text that the folder's comes from; null where nobody knows. */
    private @Nullable ModuleText base(DraftName name, @Nullable DraftNote note) {
        if (note == null) {
            return null;
        }
        HttpResponse<byte[]> response = service().get(name.path() + "/revisions/" + note.revision());
        return response.statusCode() == UNKNOWN
                ? null
                : ComparedText.text(
                        Service.json(Service.expectSuccess(response)).path("text"));
    }

    private static void write(Path place, @Nullable ModuleText mine, ModuleText text) {
        try {
            for (Map.Entry<String, String> file : text.files().entrySet()) {
                Path path = place.resolve(file.getKey());
                Files.createDirectories(path.getParent());
                Files.writeString(path, file.getValue());
            }
            if (mine != null) {
                for (String file : mine.files().keySet()) {
                    if (!text.files().containsKey(file)) {
                        Files.deleteIfExists(place.resolve(file));
                    }
                }
            }
        } catch (IOException | UncheckedIOException e) {
            throw CommandFailure.refused("The folder " + place + " cannot be written: " + e.getMessage());
        }
    }
}
