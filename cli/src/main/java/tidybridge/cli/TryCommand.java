package tidybridge.cli;

import java.io.PrintWriter;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy try moorings/v1 GET /berths from=2031-05-01 until=2031-05-04} */
@Command(
        name = "try",
        description = {
            "Run an operation of the workspace's text, unpublished, against its source.",
            "Shows the statement, how the database reads its tables, the answer, and the findings.",
            "What changes data is rehearsed: it is run for real, and undone."
        },
        footer = {
            "",
            "Exit code: 0 when the answer is a 200, 1 when not.",
            "",
            "Examples:",
            "  ./tidy try moorings/v1 GET /berths from=2031-05-01 until=2031-05-04 --folder demo/workspace",
            "  ./tidy try moorings/v1 GET /berths/17 --show-values",
            "  ./tidy try moorings/v1 POST /berths/search basins='Heron Pool,Alder Basin' vessel/length_m=12"
        })
final class TryCommand extends ServiceCommand {

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Mixin
    private final TrialArguments arguments = new TrialArguments();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        PrintWriter out = out();
        CheckedWorkspace checked = folder.read();
        JsonNode trial = posted("/desk/trials", arguments.request(checked));
        int status = trial.path("answer").path("status").asInt();
        if (json.print(trial, out)) {
            return status / 100 == 2 ? 0 : 1;
        }
        TrialPrinter printer = new TrialPrinter(out, arguments.showValues());
        printer.statement(trial.path("statement"));
        printer.answer(trial);
        new RehearsalPrinter(out).print(trial.path("rehearsal"));
        printer.findings(trial, folder.path());
        arguments.expectFound(status, trial.has("label"));
        return status / 100 == 2 ? 0 : 1;
    }
}
