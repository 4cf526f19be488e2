package tidybridge.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy rehearse moorings/v1 DELETE /bookings status=expired} */
@Command(
        name = "rehearse",
        description = {
            "Run a change for real, show what it did, and undo it.",
            "Shows the answer a caller would get and the rows it would insert, change and delete, field by field,",
            "those of triggers, cascades and procedures among them. Nothing is ever kept."
        },
        footer = {
            "",
            "It locks what the change locks, for as long as it takes. It is noted in the audit trail, and needs the",
            "privilege tidy.rehearse. Numbers the database gives to new rows are not given back.",
            "",
            "Exit code: 0 when the answer is a 200, 1 when not.",
            "",
            "Examples:",
            "  ./tidy rehearse moorings/v1 DELETE /bookings status=expired before=2030-03-01",
            "  ./tidy rehearse moorings/v1 PATCH /bookings/12 note='Dog on board' If-Match='*'",
            "  ./tidy rehearse moorings/v1 POST /bookings berthId=17 vesselId=42 from=2033-05-01 until=2033-05-04 \\",
            "      --watch 'select count(*) from booking where berth_id = 17'"
        })
final class RehearseCommand extends ServiceCommand {

    @Mixin
    private final FolderOption folder = new FolderOption();

    @Mixin
    private final TrialArguments arguments = new TrialArguments();

    @Option(names = "--live", description = "Rehearse what is published, not the workspace's text.")
    private boolean live;

    @Option(
            names = "--watch",
            paramLabel = "SQL",
            description = "A query to be asked before and after; may be repeated.")
    private List<String> watches = new ArrayList<>();

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        PrintWriter out = out();
        Map<String, Object> request = live ? arguments.requestLive() : arguments.request(folder.read());
        request.put("watches", watches);
        JsonNode trial = posted("/desk/trials", request);
        int status = trial.path("answer").path("status").asInt();
        if (json.print(trial, out)) {
            return status / 100 == 2 ? 0 : 1;
        }
        TrialPrinter printer = new TrialPrinter(out, arguments.showValues());
        printer.answer(trial);
        JsonNode rehearsal = trial.path("rehearsal");
        new RehearsalPrinter(out).print(rehearsal);
        if (status == 0) {
            printer.findings(trial, folder.path());
        } else if (rehearsal.isMissingNode() || rehearsal.isNull()) {
            out.println(status / 100 == 2 ? "It changes nothing." : "It was refused, so nothing would change.");
        }
        arguments.expectFound(status, trial.has("label"));
        return status / 100 == 2 ? 0 : 1;
    }
}
