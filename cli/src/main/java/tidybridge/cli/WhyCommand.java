package tidybridge.cli;

import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy why 4bf92f3577b34da6a3ce929d0e0e4736} */
@Command(
        name = "why",
        description =
                "Tell why a call was refused, by the id that its answer carried in X-Request-Id and in 'requestId'. Refused calls are kept for seven days.",
        footer = {"", "Example:", "  ./tidy why 4bf92f3577b34da6a3ce929d0e0e4736"})
final class WhyCommand extends ServiceCommand {

    @Parameters(paramLabel = "REQUEST", description = "The request's id.")
    @SuppressWarnings("NullAway.Init")
    private String request;

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        JsonNode answer = service().desk("/desk/refused-calls?request=" + Texts.encoded(request));
        if (json.print(answer, out())) {
            return 0;
        }
        for (JsonNode call : answer.path("calls")) {
            out().println(Texts.moment(call.path("at"), "") + " UTC  "
                    + call.path("status").asInt() + " " + call.path("code").asString());
            out().println("  called  " + call.path("module").asString("no live module") + " "
                    + call.path("operation").asString(""));
            out().println("  by      " + call.path("who").asString("somebody unknown") + ", from "
                    + call.path("address").asString());
            out().println("  why     " + call.path("reason").asString());
        }
        if (answer.path("calls").isEmpty()) {
            throw CommandFailure.refused(
                    "No refused call of that id is known; each is kept for seven days, and of more than 500 in 10 s the others are only counted.");
        }
        return 0;
    }
}
