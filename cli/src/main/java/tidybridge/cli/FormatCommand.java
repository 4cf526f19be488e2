package tidybridge.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tidybridge.core.definition.ModuleFormat;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Workspace;
import tidybridge.core.text.BrokenText;

/** {@code ./tidy format --folder FOLDER} */
@Command(
        name = "format",
        description = {
            "Put each module.yaml of a workspace into one order and layout. What it says, and every comment, stays; statements are yours.",
            "It works without a service."
        },
        footer = {
            "",
            "Exit code 1 with --look when something would change, so that a build can ask.",
            "",
            "Examples:",
            "  ./tidy format --folder demo/workspace",
            "  ./tidy format --folder demo/workspace --look"
        })
final class FormatCommand extends TidyCommand {

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Option(names = "--look", description = "Only tell which would change, and change nothing.")
    private boolean look;

    @Override
    public Integer call() {
        CheckedWorkspace read = folder.read();
        List<String> changed = new ArrayList<>();
        for (Workspace.Module module : read.modules()) {
            if (format(module.text())) {
                changed.add(module.text().folder());
            }
        }
        out().println(
                        changed.isEmpty()
                                ? "Everything is in order."
                                : changed.size() + (look ? " would change." : " written."));
        return look && !changed.isEmpty() ? 1 : 0;
    }

    private boolean format(ModuleText text) {
        String before = text.files().getOrDefault(ModuleText.MAIN, "");
        String after;
        try {
            after = ModuleFormat.of(text.source(ModuleText.MAIN));
        } catch (BrokenText e) {
            out().println("not readable  " + e.place() + ": " + e.reason());
            return false;
        } catch (ModuleFormat.Unfaithful e) {
            out().println("left alone    " + text.folder() + "/" + ModuleText.MAIN + ": " + e.getMessage());
            return false;
        }
        if (after.equals(before)) {
            return false;
        }
        out().println((look ? "would change  " : "written       ") + text.folder() + "/" + ModuleText.MAIN);
        if (!look) {
            write(folder.path().resolve(text.folder()).resolve(ModuleText.MAIN), after);
        }
        return true;
    }

    private static void write(Path file, String text) {
        try {
            Files.writeString(file, text);
        } catch (IOException e) {
            throw CommandFailure.refused("The file " + file + " cannot be written.");
        }
    }
}
