package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.Charset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.catalog.Relation;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sheet.CsvRows;
import tidybridge.core.sheet.SheetLook;
import tidybridge.core.sheet.SheetRows;
import tidybridge.core.sheet.UnreadableSheet;
import tidybridge.engine.Source;
import tidybridge.engine.Sources;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.Visitor;
import tidybridge.service.run.Refusal;
import tidybridge.service.sheet.SheetFile;
import tidybridge.service.sheet.SheetLoad;

/** Sheets that become tables: what they hold, and their rows put into a table. The body of a request is the file itself. */
@RestController
@RequestMapping("/desk/sheets")
class SheetsController {

    /** Each is a file that is read several times over. */
    private static final int MOST_AT_ONCE = 2;

    private static final Pattern TABLE = Pattern.compile("[A-Za-z_][A-Za-z0-9_]{0,63}");

    private final Sources sources;
    private final SheetLoad load;
    private final Semaphore free = new Semaphore(MOST_AT_ONCE);

    SheetsController(Sources sources, SheetLoad load) {
        this.sources = sources;
        this.load = load;
    }

    record ColumnView(
            String name, String heading, String type, boolean nullable, List<String> examples, List<String> notes) {}

    record BadRowView(long line, String reason) {}

    /**
     * What a sheet holds.
     *
     * @param there whether the source has such a table already; the bad rows are those that it cannot take, then
     * @param key the column that tells rows apart; null where they are numbered
     * @param createTable the statement that makes a table for it
     * @param separator of a CSV file; null for a workbook
     * @param encoding of a CSV file; null for a workbook
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record SheetView(
            String table,
            boolean there,
            List<ColumnView> columns,
            long rows,
            @Nullable String key,
            List<BadRowView> bad,
            long moreBad,
            String createTable,
            @Nullable String separator,
            @Nullable String encoding) {}

    /** A request as its query says it. */
    private record Asked(Source source, String table, SheetFile.Choices choices, Map<String, String> types) {}

    /** Reads a sheet to its end and tells what its columns are. Nothing is kept. */
    @PostMapping("/looks")
    @DeskNeeds(ServicePrivilege.EDIT)
    SheetView look(
            HttpServletRequest http,
            @RequestParam("source") String source,
            @RequestParam("table") String table,
            @RequestParam(name = "separator", required = false) @Nullable String separator,
            @RequestParam(name = "encoding", required = false) @Nullable String encoding,
            @RequestParam(name = "sheet", required = false) @Nullable String sheet,
            @RequestParam(name = "type", required = false) @Nullable List<String> types)
            throws IOException, Refusal {
        Asked asked = asked(source, table, separator, encoding, sheet, types);
        return whileFree(() -> {
            try (SheetFile file = SheetFile.of(http, asked.choices())) {
                return view(asked, file);
            }
        });
    }

    /**
     * Puts the rows of a sheet into a table, all or none. The answer is a line of JSON after each batch, and the outcome at the end.
     *
     * @param create true to make the table if it is not there
     */
    @PostMapping("/loads")
    @DeskNeeds(ServicePrivilege.PUBLISH)
    void load(
            HttpServletRequest http,
            HttpServletResponse response,
            @RequestParam("source") String source,
            @RequestParam("table") String table,
            @RequestParam(name = "create", defaultValue = "false") boolean create,
            @RequestParam(name = "separator", required = false) @Nullable String separator,
            @RequestParam(name = "encoding", required = false) @Nullable String encoding,
            @RequestParam(name = "sheet", required = false) @Nullable String sheet,
            @RequestParam(name = "type", required = false) @Nullable List<String> types)
            throws IOException, Refusal {
        Asked asked = asked(source, table, separator, encoding, sheet, types);
        whileFree(() -> {
            try (SheetFile file = SheetFile.of(http, asked.choices())) {
                Visitor visitor = Visitor.of(http);
                load.run(
                        new SheetLoad.Wanted(
                                asked.source(),
                                asked.table(),
                                create,
                                asked.types(),
                                visitor.who(),
                                visitor.caller().address()),
                        file,
                        response);
                return true;
            }
        });
    }

    private SheetView view(Asked asked, SheetFile file) throws UnreadableSheet, IOException {
        SheetLook look;
        String separator = null;
        String encoding = null;
        try (SheetRows rows = file.open()) {
            look = SheetLook.of(rows).with(asked.types());
            if (rows instanceof CsvRows csv) {
                separator = CsvRows.shown(csv.separator());
                encoding = csv.encoding().name();
            }
        }
        Optional<Relation> there = SheetLoad.table(asked.source(), asked.table());
        SheetLoad.Checked checked = there.isPresent()
                ? SheetLoad.check(there.get(), file)
                : new SheetLoad.Checked(look.bad(), look.moreBad());
        return new SheetView(
                asked.table(),
                there.isPresent(),
                look.columns().stream()
                        .map(column -> new ColumnView(
                                column.name(),
                                column.heading(),
                                column.type(),
                                column.nullable(),
                                column.examples(),
                                column.notes()))
                        .toList(),
                look.rows(),
                look.key().orElse(null),
                checked.bad().stream()
                        .map(bad -> new BadRowView(bad.line(), bad.reason()))
                        .toList(),
                checked.more(),
                look.createTable(asked.table(), asked.source().catalog().dialect()),
                separator,
                encoding);
    }

    private Asked asked(
            String source,
            String table,
            @Nullable String separator,
            @Nullable String encoding,
            @Nullable String sheet,
            @Nullable List<String> types) {
        Source found = sources.find(source)
                .orElseThrow(() -> new DeskRefusal(ProblemKind.BAD_INPUT, "'source' names one that is known here."));
        if (!TABLE.matcher(table).matches()) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "'table' has letters, digits and underscores, and begins with a letter.");
        }
        Map<String, String> byColumn = new LinkedHashMap<>();
        for (String type : types == null ? List.<String>of() : types) {
            int colon = type.indexOf(':');
            if (colon < 1) {
                throw new DeskRefusal(ProblemKind.BAD_INPUT, "'type' is written as 'built:varchar(4)'.");
            }
            byColumn.put(type.substring(0, colon), type.substring(colon + 1));
        }
        return new Asked(
                found, table, new SheetFile.Choices(separator(separator), encoding(encoding), sheet), byColumn);
    }

    private static @Nullable Character separator(@Nullable String separator) {
        if (separator == null || separator.isEmpty()) {
            return null;
        }
        String plain = separator.equals("tab") ? "\t" : separator;
        if (plain.length() != 1 || Character.isLetterOrDigit(plain.charAt(0)) || "\"\r\n".contains(plain)) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'separator' is one character, or the word tab.");
        }
        return plain.charAt(0);
    }

    private static @Nullable Charset encoding(@Nullable String encoding) {
        try {
            return encoding == null || encoding.isEmpty() ? null : Charset.forName(encoding);
        } catch (IllegalArgumentException e) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "'encoding' is not known here; write one such as UTF-8 or windows-1252.");
        }
    }

    private interface Work<T> {
        T run() throws UnreadableSheet, IOException, Refusal;
    }

    private <T> T whileFree(Work<T> work) throws IOException, Refusal {
        if (!free.tryAcquire()) {
            throw new DeskRefusal(
                    ProblemKind.BUSY,
                    MOST_AT_ONCE + " sheets are being read at this moment; send it again in a moment.");
        }
        try {
            return work.run();
        } catch (UnreadableSheet e) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, e.words());
        } catch (Source.Unreachable e) {
            throw new DeskRefusal(
                    ProblemKind.SOURCE_UNAVAILABLE, "The source does not answer; './tidy source test' tells why.");
        } finally {
            free.release();
        }
    }
}
