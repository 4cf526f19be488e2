package tidybridge.service.sheet;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import tidybridge.core.catalog.Relation;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sheet.BadRows;
import tidybridge.core.sheet.RowValues;
import tidybridge.core.sheet.SheetLook;
import tidybridge.core.sheet.SheetRows;
import tidybridge.core.sheet.UnreadableSheet;
import tidybridge.engine.ConnectionShare;
import tidybridge.engine.Source;
import tidybridge.engine.SourceFailure;
import tidybridge.records.AuditEntry;
import tidybridge.records.AuditTrail;
import tidybridge.records.Records;
import tidybridge.service.run.Refusal;
import tools.jackson.databind.json.JsonMapper;

/** Puts the rows of a sheet into a table, all or none; a table that was made for it goes again when nothing came of it. Thread-safe. */
@Component
public class SheetLoad {

    private static final Logger LOG = LoggerFactory.getLogger(SheetLoad.class);
    private static final JsonMapper JSON = JsonMapper.shared();

    private final AuditTrail trail;
    private final Clock clock;

    SheetLoad(Records records, Clock clock) {
        this.trail = records.audit();
        this.clock = clock;
    }

    /**
     * What is wanted.
     *
     * @param create true to make the table if it is not there
     * @param types of columns, where they are not to be those that were told from the rows
     * @param who wants it
     * @param address where that came from
     */
    public record Wanted(
            Source source,
            String table,
            boolean create,
            Map<String, String> types,
            String who,
            @Nullable String address) {}

    /** The first rows that a table cannot take, and how many there are beside them. */
    public record Checked(List<SheetLook.BadRow> bad, long more) {
        static Checked of(BadRows bad) {
            return new Checked(bad.first(), bad.more());
        }
    }

    /** The table of a name, as the source's user sees it. */
    public static Optional<Relation> table(Source source, String name) {
        return source.catalog()
                .contents()
                .flatMap(contents -> contents.relation(name))
                .filter(relation -> relation.kind() == Relation.Kind.TABLE);
    }

    /** Reads all rows as values of a table, and puts none there. */
    public static Checked check(Relation table, SheetFile file) throws UnreadableSheet, IOException {
        BadRows bad = new BadRows();
        try (SheetRows rows = file.open()) {
            RowValues values = RowValues.of(table, rows.headings());
            for (SheetRows.Row row = rows.next(); row != null; row = rows.next()) {
                try {
                    values.of(row);
                } catch (RowValues.Unfit e) {
                    bad.add(row.line(), e.words());
                }
            }
        }
        return Checked.of(bad);
    }

    /**
     * Does it, and answers with a line of JSON after each batch and with the outcome at the end.
     *
     * @throws Refusal when it cannot begin
     */
    public void run(Wanted wanted, SheetFile file, HttpServletResponse response)
            throws UnreadableSheet, IOException, Refusal {
        if (wanted.source().settings().readOnly()) {
            throw new Refusal(
                    ProblemKind.NOT_ALLOWED,
                    "The source is read-only; run the statement and load the rows yourself, or write 'read-only: false' under it for a user who may.");
        }
        try (ConnectionShare.Turn turn = wanted.source().trials().turn()) {
            if (!turn.await()) {
                throw new Refusal(
                        ProblemKind.BUSY, "The source is busy with other trials and loads; try again in a moment.");
            }
            boolean made = make(wanted, file);
            boolean kept = false;
            try {
                kept = loaded(wanted, file, response);
            } finally {
                if (made && !kept) {
                    drop(wanted);
                }
            }
        } catch (SourceFailure e) {
            throw refusal(e);
        }
    }

    private static Refusal refusal(SourceFailure e) {
        return switch (e.kind()) {
            case DENIED ->
                new Refusal(
                        ProblemKind.NOT_ALLOWED,
                        "The source's user may not do this; grant it 'create' and 'insert', or run the statement yourself.");
            case UNREACHABLE ->
                new Refusal(
                        ProblemKind.SOURCE_UNAVAILABLE, "The source does not answer; './tidy source test' tells why.");
            default ->
                new Refusal(
                        ProblemKind.CONFLICT,
                        "The database refused it: " + e.kind().message());
        };
    }

    /** True when the table was made just now. */
    private boolean make(Wanted wanted, SheetFile file) throws UnreadableSheet, IOException, SourceFailure, Refusal {
        wanted.source().refresh();
        if (table(wanted.source(), wanted.table()).isPresent()) {
            return false;
        }
        boolean view = wanted.source()
                .catalog()
                .contents()
                .flatMap(contents -> contents.relation(wanted.table()))
                .isPresent();
        if (view) {
            throw new Refusal(
                    ProblemKind.CONFLICT, "'" + wanted.table() + "' is a view, which takes no rows; name a table.");
        }
        if (!wanted.create()) {
            throw new Refusal(
                    ProblemKind.ROW_UNKNOWN,
                    "The source holds no table '" + wanted.table()
                            + "'; run the statement that makes it first, or have it made.");
        }
        String sql;
        try (SheetRows rows = file.open()) {
            sql = SheetLook.of(rows)
                    .with(wanted.types())
                    .createTable(wanted.table(), wanted.source().catalog().dialect());
        }
        note(wanted, "create-table", "begun for a sheet");
        try {
            wanted.source().define(sql);
        } catch (SourceFailure e) {
            if (e.kind() != ConditionKind.DENIED) {
                throw e;
            }
            // what was granted a moment ago is not felt on connections that are open already
            wanted.source().renew();
            wanted.source().define(sql);
        }
        return true;
    }

    private static void drop(Wanted wanted) throws SourceFailure {
        wanted.source()
                .define("drop table " + wanted.source().catalog().dialect().named(wanted.table()));
    }

    private boolean loaded(Wanted wanted, SheetFile file, HttpServletResponse response)
            throws UnreadableSheet, IOException {
        Relation table = table(wanted.source(), wanted.table())
                .orElseThrow(() -> new UnreadableSheet("The table '" + wanted.table() + "' is gone again."));
        Checked checked = check(table, file);
        response.setContentType("application/x-ndjson");
        if (!checked.bad().isEmpty()) {
            end(response, 0, checked, "");
            return false;
        }
        note(wanted, "load-rows", "begun from a sheet");
        BadRows bad = new BadRows();
        try {
            long count = put(wanted, file, table, response, bad);
            boolean kept = bad.isEmpty();
            told(wanted, kept ? "kept " + count + " rows" : "kept none");
            answered(response, kept ? count : 0, Checked.of(bad), "");
            return kept;
        } catch (UncheckedIOException e) {
            told(wanted, "kept none, because whoever sent it hung up");
            return false;
        } catch (SourceFailure e) {
            boolean unknown = e.kind() == ConditionKind.OUTCOME_UNKNOWN;
            told(wanted, unknown ? "kept or not, the connection broke" : "kept none");
            String words = unknown
                    ? "The connection broke at the very end; look whether the rows are there before you load them again."
                    : String.valueOf(refusal(e).problem().detail());
            answered(response, 0, new Checked(List.of(), 0), words);
            return unknown;
        }
    }

    /** Puts the rows there; once more on new connections when the right to do so was granted a moment ago. */
    private static long put(Wanted wanted, SheetFile file, Relation table, HttpServletResponse response, BadRows bad)
            throws UnreadableSheet, IOException, SourceFailure {
        try {
            return putOnce(wanted, file, table, response, bad);
        } catch (SourceFailure e) {
            if (e.kind() != ConditionKind.DENIED) {
                throw e;
            }
            wanted.source().renew();
            return putOnce(wanted, file, table, response, bad);
        }
    }

    private static long putOnce(
            Wanted wanted, SheetFile file, Relation table, HttpServletResponse response, BadRows bad)
            throws UnreadableSheet, IOException, SourceFailure {
        try (SheetRows rows = file.open()) {
            RowValues values = RowValues.of(table, rows.headings());
            return wanted.source()
                    .load(table, values.columns(), () -> next(rows, values), done -> tell(response, done), bad);
        }
    }

    /** What is done is done, whether or not it can be written down. */
    private void told(Wanted wanted, String detail) {
        try {
            note(wanted, "load-rows", detail);
        } catch (RuntimeException e) {
            LOG.warn("the audit trail was not told that a load into {} {}", wanted.table(), detail, e);
        }
    }

    /** The outcome stands, whether or not anybody still reads it. */
    private static void answered(HttpServletResponse response, long rows, Checked checked, String trouble) {
        try {
            end(response, rows, checked, trouble);
        } catch (IOException e) {
            LOG.debug("whoever sent a sheet hung up", e);
        }
    }

    private static Source.@Nullable NumberedRow next(SheetRows rows, RowValues values) throws IOException {
        try {
            SheetRows.Row row = rows.next();
            return row == null ? null : new Source.NumberedRow(row.line(), values.of(row));
        } catch (UnreadableSheet | RowValues.Unfit e) {
            throw new IllegalStateException("it was checked before", e);
        }
    }

    private void note(Wanted wanted, String action, String detail) {
        String subject = wanted.source().settings().name() + "/" + wanted.table();
        trail.add(new AuditEntry(clock.instant(), wanted.who(), wanted.address(), action, subject, detail));
    }

    private static void tell(HttpServletResponse response, long rows) {
        try {
            line(response, Map.of("rows", rows));
        } catch (IOException e) {
            // whoever asked is gone: nothing is to be kept
            throw new UncheckedIOException(e);
        }
    }

    private static void end(HttpServletResponse response, long rows, Checked checked, String trouble)
            throws IOException {
        Map<String, Object> outcome = new LinkedHashMap<>();
        outcome.put("kept", checked.bad().isEmpty() && trouble.isEmpty());
        outcome.put("rows", rows);
        outcome.put(
                "bad",
                checked.bad().stream()
                        .map(bad -> Map.of("line", bad.line(), "reason", bad.reason()))
                        .toList());
        outcome.put("moreBad", checked.more());
        if (!trouble.isEmpty()) {
            outcome.put("trouble", trouble);
        }
        line(response, outcome);
    }

    private static void line(HttpServletResponse response, Map<String, Object> line) throws IOException {
        OutputStream out = response.getOutputStream();
        out.write((JSON.writeValueAsString(line) + "\n").getBytes(StandardCharsets.UTF_8));
        out.flush();
    }
}
