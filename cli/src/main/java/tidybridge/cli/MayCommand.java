package tidybridge.cli;

import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy may quay-display moorings/v1 GET /berths} */
@Command(
        name = "may",
        description =
                "Tell whether an application, or a person, may call an operation, and why. Exit code 0 for yes, or for what depends on the address; 1 for no.",
        footer = {
            "",
            "Examples:",
            "  ./tidy may quay-display moorings/v1 POST /bookings",
            "  ./tidy may quay-display moorings/v1 GET /berths --from 10.1.2.3",
            "  ./tidy may mara.holt tolls/v1 GET /tolls --person"
        })
final class MayCommand extends ServiceCommand {

    private static final int NO = 1;

    @Parameters(index = "0", paramLabel = "NAME", description = "An application's name, or a person's with --person.")
    @SuppressWarnings("NullAway.Init")
    private String name;

    @Parameters(index = "1", paramLabel = "MODULE", description = "Such as moorings/v1.")
    @SuppressWarnings("NullAway.Init")
    private String module;

    @Parameters(index = "2", paramLabel = "METHOD", description = "Such as GET.")
    @SuppressWarnings("NullAway.Init")
    private String method;

    @Parameters(index = "3", paramLabel = "PATH", description = "Such as /berths, /berths/{berth_no} or /berths/12.")
    @SuppressWarnings("NullAway.Init")
    private String path;

    @Option(names = "--person", description = "NAME is a person's.")
    private boolean person;

    @Option(names = "--from", paramLabel = "ADDRESS", description = "Where the call would come from.")
    private @Nullable String from;

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        JsonNode answer = service()
                .desk("/desk/access/answers" + OperationArguments.query(module, method, path)
                        + (person ? "&person=" : "&client=") + Texts.encoded(name)
                        + (from == null ? "" : "&address=" + Texts.encoded(from)));
        String outcome = answer.path("outcome").asString();
        if (!json.print(answer, out())) {
            out().println(switch (outcome) {
                        case "yes" -> "Yes: ";
                        case "no" -> "No: ";
                        default -> "It depends: ";
                    }
                    + name + ", " + answer.path("method").asString() + " "
                    + answer.path("path").asString());
            for (JsonNode step : answer.path("steps")) {
                out().println("  " + mark(step.path("outcome").asString()) + "  "
                        + step.path("sentence").asString());
            }
        }
        return outcome.equals("no") ? NO : 0;
    }

    private static String mark(String outcome) {
        return switch (outcome) {
            case "yes" -> "yes";
            case "no" -> "NO ";
            default -> " ? ";
        };
    }
}
