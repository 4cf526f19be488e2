package tidybridge.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Option;

/** Which workspace a command reads. */
final class FolderOption {

    private static final String MAIN_FILE = "workspace.yaml";

    @Option(
            names = "--folder",
            paramLabel = "FOLDER",
            description = "The folder that holds workspace.yaml; this one, or demo/workspace, unless given.")
    private Optional<Path> folder = Optional.empty();

    Path path() {
        return folder.orElseGet(FolderOption::usual);
    }

    private static Path usual() {
        return Files.isRegularFile(Path.of(MAIN_FILE)) ? Path.of("").toAbsolutePath() : Path.of("demo", "workspace");
    }

    /** What somebody has to type to mean this folder again; empty for the usual one. */
    String again() {
        return folder.map(path -> " --folder " + ShellWord.of(path.toString())).orElse("");
    }

    CheckedWorkspace read() {
        return CheckedWorkspace.read(path());
    }
}
