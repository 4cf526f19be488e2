package tidybridge.cli;

import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.nio.file.Path;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.TextComparison;
import tidybridge.core.compare.TextMerge;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Workspace;
import tools.jackson.databind.JsonNode;

/** Sends modules of a folder as drafts, and overwrites nothing that others made. */
final class DraftPush {

    private static final int CHANGED = 412;

    private final Service service;
    private final Path folder;
    private final PrintWriter out;

    DraftPush(Service service, Path folder, PrintWriter out) {
        this.service = service;
        this.folder = folder;
        this.out = out;
    }

    /** False when somebody else changed the draft. */
    boolean push(Workspace.Module module) {
        DraftName name = DraftName.of(module);
        ModuleText text = module.text();
        if (TextMerge.isUnsettled(text)) {
            throw CommandFailure.refused("The text of " + name + " has lines that nobody has settled; look for '"
                    + TextMerge.MARK + "', and remove the marks.");
        }
        Path place = folder.resolve(text.folder());
        DraftNote note = DraftNote.read(place, service, name.toString());
        HttpResponse<byte[]> response =
                service.change("PUT", name.path(), CheckedWorkspace.text(module), DraftNote.condition(note));
        if (response.statusCode() == CHANGED) {
            return isSame(name, text, place);
        }
        int revision =
                Service.json(Service.expectSuccess(response)).path("revision").asInt();
        new DraftNote(service.address().toString(), name.toString(), revision).write(place);
        say(note != null && note.revision() == revision ? "unchanged" : "pushed", name, revision, null);
        return true;
    }

    /** Two who have the same text need not settle anything. */
    private boolean isSame(DraftName name, ModuleText text, Path place) {
        HttpResponse<byte[]> response = service.get(name.path());
        JsonNode draft = Service.json(Service.expectSuccess(response));
        ModuleText theirs = ComparedText.text(draft.path("text"));
        int revision = draft.path("revision").asInt();
        if (theirs.files().equals(text.files())) {
            new DraftNote(service.address().toString(), name.toString(), revision).write(place);
            say("unchanged", name, revision, null);
            return true;
        }
        say("not pushed", name, revision, draft);
        new DifferencePrinter(out).print(TextComparison.of(theirs, text));
        out.println();
        return false;
    }

    private void say(String what, DraftName name, int revision, @Nullable JsonNode theirs) {
        out.println(String.format("%-12s", what) + name + " revision " + revision
                + (theirs == null
                        ? ", " + service.at("/drafts/" + name)
                        : " is by " + theirs.path("changedBy").asString() + ", "
                                + Texts.moment(theirs.path("changedAt"), "")
                                + " UTC. From it to this folder:"));
    }
}
