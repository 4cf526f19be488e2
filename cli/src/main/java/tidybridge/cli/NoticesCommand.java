package tidybridge.cli;

import java.util.ArrayList;
import java.util.List;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy notices} */
@Command(
        name = "notices",
        description = "List what was told to people outside by mail and webhook, and what could not be told.",
        footer = {
            "",
            "One that waits is tried again, less and less often, for about a day and a half.",
            "",
            "Example:",
            "  ./tidy notices"
        })
final class NoticesCommand extends ServiceCommand {

    @Mixin
    private final JsonOption json = new JsonOption();

    @Override
    public Integer call() {
        JsonNode answer = service().desk("/desk/notices");
        if (json.print(answer, out())) {
            return 0;
        }
        List<List<String>> rows = new ArrayList<>();
        for (JsonNode notice : answer.path("notices")) {
            rows.add(List.of(
                    notice.path("id").asString(),
                    Texts.moment(notice.path("madeAt"), ""),
                    notice.path("way").asString(),
                    notice.path("recipient").asString(),
                    notice.path("subject").asString(),
                    notice.path("state").asString(),
                    notice.path("tries").asString(),
                    notice.path("trouble").asString("")));
        }
        if (rows.isEmpty()) {
            out().println(
                            "Nothing was told to anybody yet; docs/operating.md, 'Mail and webhooks', tells what to set.");
            return 0;
        }
        out().print(Table.draw(
                List.of("Notice", "Made (UTC)", "By", "To", "Subject", "State", "Tries", "Trouble"),
                SourceCommand.left(8),
                rows));
        return 0;
    }
}
