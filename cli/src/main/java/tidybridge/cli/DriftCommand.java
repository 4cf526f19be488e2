package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy drift} */
@Command(
        name = "drift",
        description = {
            "Look now whether databases still are what live releases were published against.",
            "The service looks by itself too, every 15 minutes unless 'tidy.drift-every' says otherwise."
        },
        footer = {
            "",
            "The exit code is 1 when callers of some operation are let down.",
            "",
            "Example:",
            "  ./tidy drift"
        })
final class DriftCommand extends ServiceCommand {

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        JsonNode answer = posted("/desk/drift", Map.of());
        List<List<String>> rows = new ArrayList<>();
        boolean breaks = false;
        for (JsonNode module : answer.path("modules")) {
            for (JsonNode note : module.path("notes")) {
                boolean breaking = note.path("breaking").asBoolean();
                breaks |= breaking;
                rows.add(List.of(
                        module.path("module").asString(),
                        note.path("operation").asString(""),
                        breaking ? "breaks" : "weaker",
                        note.path("words").asString()));
            }
        }
        if (!json.print(answer, out())) {
            int count = answer.path("modules").size();
            out().print(
                            rows.isEmpty()
                                    ? "Every database fits: " + count + (count == 1 ? " module" : " modules")
                                            + " looked at.\n"
                                    : Table.draw(
                                            List.of("Module", "Operation", "Callers", "What"),
                                            SourceCommand.left(4),
                                            rows));
        }
        return breaks ? 1 : 0;
    }
}
