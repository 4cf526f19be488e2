package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AuditTrail;
import tidybridge.records.AuditTrail.Search;
import tidybridge.records.AuditTrail.StoredEntry;
import tidybridge.records.Records;
import tidybridge.service.access.DeskNeeds;
import tools.jackson.databind.json.JsonMapper;

/** Who did what. */
@RestController
@RequestMapping("/desk/audit")
class AuditController {

    private static final int USUAL = 100;
    private static final int MOST = 1_000;
    private static final String NOTED = "[1-9][0-9]{0,17}:[0-9a-f]{64}";
    private static final String[] COLUMNS = {
        "entry", "at", "who", "address", "action", "subject", "detail", "before", "after", "sha256"
    };
    private static final JsonMapper JSON = JsonMapper.shared();

    private final AuditTrail trail;

    AuditController(Records records) {
        this.trail = records.audit();
    }

    /** What is looked for; everything unless given. */
    record Wanted(
            @Nullable String who,
            @Nullable String action,
            @Nullable String subject,
            @Nullable String text,
            @Nullable Instant from,
            @Nullable Instant until,
            @Nullable Long before) {

        Search search() {
            return new Search(blank(who), blank(action), blank(subject), blank(text), from, until, before);
        }

        private static @Nullable String blank(@Nullable String text) {
            return text == null || text.isBlank() ? null : text.strip();
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record EntryView(
            long entry,
            Instant at,
            String who,
            @Nullable String address,
            String action,
            String subject,
            String detail,
            @Nullable String before,
            @Nullable String after,
            @Nullable String sha256) {

        static EntryView of(StoredEntry kept) {
            return new EntryView(
                    kept.id(),
                    kept.entry().at(),
                    kept.entry().who(),
                    kept.entry().address(),
                    kept.entry().action(),
                    kept.entry().subject(),
                    kept.entry().detail(),
                    kept.entry().before(),
                    kept.entry().after(),
                    kept.hash());
        }
    }

    record EntryViews(List<EntryView> entries, boolean more) {}

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record CheckView(
            boolean whole,
            long entries,
            long lastEntry,
            String lastSha256,
            @Nullable String trouble) {}

    /** The newest first. */
    @GetMapping
    @DeskNeeds(ServicePrivilege.OPERATE)
    EntryViews entries(
            @ModelAttribute Wanted wanted, @RequestParam(name = "limit", defaultValue = "" + USUAL) int limit) {
        if (limit < 1 || limit > MOST) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'limit' must be from 1 to " + MOST + ".");
        }
        List<StoredEntry> found = trail.find(wanted.search(), limit + 1);
        return new EntryViews(found.stream().limit(limit).map(EntryView::of).toList(), found.size() > limit);
    }

    /** Everything that is wanted, the newest first, some at a time, so that no connection is held for a slow reader. */
    @GetMapping("/export")
    @DeskNeeds(ServicePrivilege.OPERATE)
    void export(@ModelAttribute Wanted wanted, @RequestParam("format") String format, HttpServletResponse response)
            throws IOException {
        boolean csv = format.equals("csv");
        if (!csv && !format.equals("ndjson")) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'format' must be csv or ndjson.");
        }
        response.setContentType(csv ? "text/csv; charset=utf-8; header=present" : "application/x-ndjson");
        response.setHeader("Content-Disposition", "attachment; filename=\"audit." + format + "\"");
        Search search = wanted.search();
        Writer out = new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8);
        CSVPrinter rows = csv ? new CSVPrinter(out, CSVFormat.RFC4180) : null;
        if (rows != null) {
            rows.printRecord((Object[]) COLUMNS);
        }
        List<StoredEntry> some = trail.find(search, MOST);
        while (!some.isEmpty()) {
            for (StoredEntry kept : some) {
                if (rows != null) {
                    rows.printRecord(cells(EntryView.of(kept)));
                } else {
                    out.write(JSON.writeValueAsString(EntryView.of(kept)));
                    out.write('\n');
                }
            }
            out.flush();
            some = some.size() < MOST
                    ? List.of()
                    : trail.find(search.before(some.getLast().id()), MOST);
        }
        out.flush();
    }

    private static Object[] cells(EntryView entry) {
        return new Object[] {
            entry.entry(),
            entry.at(),
            harmless(entry.who()),
            harmless(entry.address()),
            harmless(entry.action()),
            harmless(entry.subject()),
            harmless(entry.detail()),
            harmless(entry.before()),
            harmless(entry.after()),
            entry.sha256()
        };
    }

    /** A cell that begins like a formula is run by spreadsheets. */
    private static @Nullable String harmless(@Nullable String text) {
        return text != null && !text.isEmpty() && "=+-@\t\r".indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
    }

    /** Whether the trail is whole. */
    @GetMapping("/check")
    @DeskNeeds(ServicePrivilege.OPERATE)
    CheckView check(@RequestParam(name = "noted", required = false) @Nullable String noted) {
        if (noted != null && !noted.matches(NOTED)) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "'noted' is an entry and its hash, as the service's log says them: 17:3f2a...");
        }
        int colon = noted == null ? 0 : noted.indexOf(':');
        AuditTrail.Check check = trail.check(
                noted == null
                        ? null
                        : new AuditTrail.Head(Long.parseLong(noted.substring(0, colon)), noted.substring(colon + 1)));
        return new CheckView(
                check.trouble() == null,
                check.entries(),
                check.head().entry(),
                check.head().hash(),
                check.trouble());
    }
}
