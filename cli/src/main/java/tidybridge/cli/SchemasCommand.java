package tidybridge.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tidybridge.core.definition.DefinitionSchema;
import tidybridge.core.definition.ModuleSchema;
import tidybridge.core.definition.Workspace;

/** {@code ./tidy schemas --folder FOLDER} */
@Command(
        name = "schemas",
        description = {
            "Write the JSON Schemas by which editors complete and check a workspace: one beside workspace.yaml, one beside each module.yaml.",
            "That of a module knows its statement files and the workspace's sources, so that an editor completes them, too."
        },
        footer = {
            "",
            "Tell your editor that module.schema.json is the schema of the module.yaml beside it, and workspace.schema.json that of",
            "workspace.yaml. './tidy watch' keeps them up to date. They can be made anew at any time: keep them out of version control.",
            "",
            "Examples:",
            "  ./tidy schemas --folder ~/bridge",
            "  ./tidy schemas --folder ~/bridge --remove"
        })
final class SchemasCommand extends TidyCommand {

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Option(names = "--remove", description = "Take them away again.")
    private boolean remove;

    @Override
    public Integer call() {
        CheckedWorkspace read = folder.read();
        Path root = folder.path();
        int written = put(
                root.resolve(DefinitionSchema.WORKSPACE.file()),
                new String(DefinitionSchema.WORKSPACE.bytes(), StandardCharsets.UTF_8));
        for (Workspace.Module module : read.modules()) {
            written += put(file(root, module), text(read, module));
        }
        out().println(written == 0 ? "Everything is up to date." : written + (remove ? " removed." : " written."));
        return 0;
    }

    /** Writes anew those that are there: statements come and go while a module is written. */
    static void refresh(Path root, CheckedWorkspace read) {
        for (Workspace.Module module : read.modules()) {
            Path file = file(root, module);
            if (Files.exists(file)) {
                write(file, text(read, module));
            }
        }
    }

    private static Path file(Path root, Workspace.Module module) {
        return root.resolve(module.text().folder()).resolve(ModuleSchema.FILE);
    }

    private static String text(CheckedWorkspace read, Workspace.Module module) {
        List<String> sources = read.sources();
        return ModuleSchema.of(module.text().files().keySet(), sources);
    }

    private int put(Path file, String text) {
        try {
            return remove ? Files.deleteIfExists(file) ? 1 : 0 : write(file, text) ? 1 : 0;
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + file + " cannot be removed.");
        }
    }

    private static boolean write(Path file, String text) {
        try {
            if (Files.exists(file) && Files.readString(file).equals(text)) {
                return false;
            }
            Files.writeString(file, text);
            return true;
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + file + " cannot be written.");
        }
    }
}
