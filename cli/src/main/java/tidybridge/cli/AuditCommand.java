package tidybridge.cli;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import tools.jackson.databind.JsonNode;

/** {@code ./tidy audit list|export|check} */
@Command(
        name = "audit",
        description =
                "Who changed what, signed in, rehearsed, or was refused. Entries are only ever added, and hang together by their hashes.",
        subcommands = {AuditCommand.ListCommand.class, AuditCommand.ExportCommand.class, AuditCommand.CheckCommand.class
        },
        footer = {
            "",
            "Examples:",
            "  ./tidy audit list --who mara.holt",
            "  ./tidy audit export --to audit.csv --from 2031-04-01",
            "  ./tidy audit check"
        })
final class AuditCommand extends TidyCommand {

    @Override
    public Integer call() {
        printUsage();
        return 0;
    }

    /** What is looked for. */
    static final class Wanted {

        @Option(names = "--who", paramLabel = "NAME", description = "Only what this one did.")
        private @Nullable String who;

        @Option(
                names = "--action",
                paramLabel = "WORD",
                description = "Only this action, such as set-client, publish, sign-in, rehearse or refused.")
        private @Nullable String action;

        @Option(names = "--subject", paramLabel = "NAME", description = "Only what was done to this.")
        private @Nullable String subject;

        @Option(names = "--text", paramLabel = "TEXT", description = "Only what holds this text.")
        private @Nullable String text;

        @Option(names = "--from", paramLabel = "DAY", description = "The first day, or moment, in UTC.")
        private @Nullable String from;

        @Option(names = "--until", paramLabel = "DAY", description = "The day, or moment, before which to stop.")
        private @Nullable String until;

        String query() {
            StringBuilder query = new StringBuilder();
            add(query, "who", who);
            add(query, "action", action);
            add(query, "subject", subject);
            add(query, "text", text);
            add(query, "from", moment(from));
            add(query, "until", moment(until));
            return query.toString();
        }

        private static @Nullable String moment(@Nullable String text) {
            return text != null && text.matches("\\d{4}-\\d{2}-\\d{2}") ? text + "T00:00:00Z" : text;
        }

        private static void add(StringBuilder query, String name, @Nullable String value) {
            if (value != null) {
                query.append('&').append(name).append('=').append(Texts.encoded(value));
            }
        }
    }

    /** {@code ./tidy audit list --who mara.holt} */
    @Command(
            name = "list",
            description = "List entries, the newest first.",
            footer = {"", "Example:", "  ./tidy audit list --action set-client --most 20"})
    static final class ListCommand extends ServiceCommand {

        @Mixin
        private final Wanted wanted = new Wanted();

        @Option(names = "--most", paramLabel = "N", description = "How many at most, up to 1000; 50 unless given.")
        private int most = 50;

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            JsonNode answer = service().desk("/desk/audit?limit=" + most + wanted.query());
            if (json.print(answer, out())) {
                return 0;
            }
            List<List<String>> rows = new ArrayList<>();
            for (JsonNode entry : answer.path("entries")) {
                rows.add(List.of(
                        entry.path("entry").asString(),
                        Texts.moment(entry.path("at"), ""),
                        entry.path("who").asString()
                                + (entry.has("address")
                                        ? ", " + entry.path("address").asString()
                                        : ""),
                        entry.path("action").asString(),
                        entry.path("subject").asString(),
                        entry.path("detail").asString()));
            }
            if (rows.isEmpty()) {
                out().println("Nothing of that kind was noted.");
                return 0;
            }
            out().print(Table.draw(
                    List.of("Entry", "When (UTC)", "Who", "Action", "Subject", "Detail"), SourceCommand.left(6), rows));
            if (answer.path("more").asBoolean()) {
                out().println(
                                "There are more; ask for them with --most, or write all of them with './tidy audit export'.");
            }
            return 0;
        }
    }

    /** {@code ./tidy audit export --to audit.csv} */
    @Command(
            name = "export",
            description =
                    "Write entries into a file, with the states before and after: CSV (RFC 4180), or JSON a line.",
            footer = {"", "Example:", "  ./tidy audit export --to audit.ndjson --from 2031-04-01"})
    static final class ExportCommand extends ServiceCommand {

        @Mixin
        private final Wanted wanted = new Wanted();

        @Option(
                names = "--to",
                required = true,
                paramLabel = "FILE",
                description = "Where to; a name that ends with .csv or .ndjson.")
        @SuppressWarnings("NullAway.Init")
        private Path to;

        @Override
        public Integer call() {
            String name = String.valueOf(to.getFileName());
            String format = name.endsWith(".csv") ? "csv" : name.endsWith(".ndjson") ? "ndjson" : "";
            if (format.isEmpty()) {
                throw CommandFailure.mistyped("The file's name must end with .csv or .ndjson.");
            }
            HttpResponse<byte[]> response =
                    Service.expectSuccess(service().get("/desk/audit/export?format=" + format + wanted.query()));
            try {
                Files.write(to, response.body());
            } catch (IOException e) {
                throw CommandFailure.refused("The file " + to + " cannot be written.");
            }
            out().println("Written to " + to + ".");
            return 0;
        }
    }

    /** {@code ./tidy audit check} */
    @Command(
            name = "check",
            description =
                    "Look whether an entry was altered or removed. Exit code 1 when one was. The last entry and its hash are printed: noted elsewhere, they prove later that nothing up to there was replaced.",
            footer = {"", "Examples:", "  ./tidy audit check", "  ./tidy audit check --noted 1234:9f86d081..."})
    static final class CheckCommand extends ServiceCommand {

        @Option(
                names = "--noted",
                paramLabel = "ENTRY:HASH",
                description = "An entry and its hash that was noted before, here or from the service's log.")
        private @Nullable String noted;

        @Mixin
        private final JsonOption json = new JsonOption();

        @Override
        public Integer call() {
            JsonNode answer =
                    service().desk("/desk/audit/check" + (noted == null ? "" : "?noted=" + Texts.encoded(noted)));
            boolean whole = answer.path("whole").asBoolean();
            if (!json.print(answer, out())) {
                out().println(
                                whole
                                        ? "The audit trail is whole: "
                                                + answer.path("entries").asString() + " entries."
                                        : "The audit trail is not whole. "
                                                + answer.path("trouble").asString());
                out().println("Its last entry is " + answer.path("lastEntry").asString() + ":"
                        + answer.path("lastSha256").asString());
            }
            return whole ? 0 : 1;
        }
    }
}
