package tidybridge.cli;

import java.io.PrintWriter;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** Which workspace a command reads. */
final class FolderOption {

    static final int UNFIT = 422;
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

    /** The workspace, when its text has no errors; otherwise they are printed, and end the command. */
    CheckedWorkspace readGood(PrintWriter out) {
        CheckedWorkspace checked = read();
        if (checked.errors() > 0) {
            new FindingPrinter(path(), out).print(checked.findings());
            throw CommandFailure.refused("Nothing was sent. " + checked.summary());
        }
        return checked;
    }

    /** Ends the command when the service found errors in what was sent; they are printed. */
    void refuseUnfit(HttpResponse<byte[]> response, PrintWriter out) {
        if (response.statusCode() == UNFIT) {
            JsonNode problem = Service.json(response);
            print(problem, out);
            throw CommandFailure.refused(problem.path("detail").asString());
        }
    }

    /** Prints those findings of an answer that are worth reading now: no advice, and nothing that the text accepts. */
    void print(JsonNode answer, PrintWriter out) {
        new FindingPrinter(path(), out).print(RemoteFinding.standing(answer));
    }
}
