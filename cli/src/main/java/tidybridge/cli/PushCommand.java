package tidybridge.cli;

import java.net.http.HttpResponse;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tidybridge.core.compare.TextComparison;
import tidybridge.core.compare.TextMerge;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Workspace;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy push --folder FOLDER} */
@Command(
        name = "push",
        description = {
            "Send the modules of a workspace to the service as drafts, byte for byte. Nothing is published.",
            "A draft that somebody else changed since this folder saw it is not touched: who did, and what differs, is shown."
        },
        footer = {
            "",
            "A text need not be free of errors. The file .draft.json in a module's folder remembers which revision it comes from; keep it out of version control.",
            "",
            "Example:",
            "  ./tidy push --folder demo/workspace"
        })
final class PushCommand extends ServiceCommand {

    private static final int CHANGED = 412;

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Override
    public Integer call() {
        CheckedWorkspace read = folder.read();
        if (read.modules().isEmpty()) {
            new FindingPrinter(folder.path(), out()).print(read.findings());
            throw CommandFailure.refused("There is no module whose name and version can be read.");
        }
        List<DraftName> moved = new ArrayList<>();
        for (Workspace.Module module : read.modules()) {
            if (!push(module)) {
                moved.add(DraftName.of(module));
            }
        }
        if (!moved.isEmpty()) {
            throw CommandFailure.refused("Somebody else changed " + moved.getFirst()
                    + (moved.size() == 1 ? "" : " and others") + "; './tidy pull " + moved.getFirst() + folder.again()
                    + " --merge' brings both together.");
        }
        return 0;
    }

    /** False when somebody else changed the draft. */
    private boolean push(Workspace.Module module) {
        DraftName name = DraftName.of(module);
        ModuleText text = module.text();
        if (TextMerge.isUnsettled(text)) {
            throw CommandFailure.refused("The text of " + name + " has lines that nobody has settled; look for '"
                    + TextMerge.MARK + "', and remove the marks.");
        }
        Path place = folder.path().resolve(text.folder());
        DraftNote note = DraftNote.read(place, service(), name.toString());
        HttpResponse<byte[]> response =
                service().change("PUT", name.path(), CheckedWorkspace.text(module), DraftNote.condition(note));
        if (response.statusCode() == CHANGED) {
            return isSame(name, text, place);
        }
        int revision =
                Service.json(Service.expectSuccess(response)).path("revision").asInt();
        new DraftNote(service().address().toString(), name.toString(), revision).write(place);
        say(note != null && note.revision() == revision ? "unchanged" : "pushed", name, revision, null);
        return true;
    }

    /** Two who have the same text need not settle anything. */
    private boolean isSame(DraftName name, ModuleText text, Path place) {
        HttpResponse<byte[]> response = service().get(name.path());
        JsonNode draft = Service.json(Service.expectSuccess(response));
        ModuleText theirs = ComparedText.text(draft.path("text"));
        int revision = draft.path("revision").asInt();
        if (theirs.files().equals(text.files())) {
            new DraftNote(service().address().toString(), name.toString(), revision).write(place);
            say("unchanged", name, revision, null);
            return true;
        }
        say("not pushed", name, revision, draft);
        new DifferencePrinter(out()).print(TextComparison.of(theirs, text));
        out().println();
        return false;
    }

    private void say(String what, DraftName name, int revision, @Nullable JsonNode theirs) {
        out().println(String.format("%-12s", what) + name + " revision " + revision
                + (theirs == null
                        ? ", " + service().at("/drafts/" + name)
                        : " is by " + theirs.path("changedBy").asString() + ", "
                                + Texts.moment(theirs.path("changedAt"), "")
                                + " UTC. From it to this folder:"));
    }
}
