package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tidybridge.core.definition.Workspace;

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
        DraftPush push = new DraftPush(service(), folder.path(), out());
        for (Workspace.Module module : read.modules()) {
            if (!push.push(module)) {
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
}
