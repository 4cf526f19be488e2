package tidybridge.cli;

import java.io.PrintWriter;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Help.Ansi;
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
        boolean breaks = answer.path("modules")
                .valueStream()
                .flatMap(module -> module.path("notes").valueStream())
                .anyMatch(note -> note.path("breaking").asBoolean());
        if (!json.print(answer, out())) {
            print(answer.path("modules"));
        }
        return breaks ? 1 : 0;
    }

    private void print(JsonNode modules) {
        boolean fits = true;
        for (JsonNode module : modules) {
            if (!module.path("notes").isEmpty()) {
                fits = false;
                out().println(Ansi.AUTO.string("@|bold " + module.path("module").asString() + "|@"));
                module.path("notes").forEach(this::printNote);
                out().println();
            }
        }
        if (fits) {
            out().println("Every database fits: " + modules.size() + (modules.size() == 1 ? " module" : " modules")
                    + " looked at.");
        }
    }

    private void printNote(JsonNode note) {
        print(note, out());
    }

    /** Prints what no longer fits, in two lines. */
    static void print(JsonNode note, PrintWriter out) {
        String weight = note.path("breaking").asBoolean() ? "@|bold,red breaking|@" : "@|bold,yellow weaker|@  ";
        out.println(
                Ansi.AUTO.string("  " + weight) + "  " + note.path("operation").asString("the module"));
        out.println("            " + note.path("words").asString());
    }
}
