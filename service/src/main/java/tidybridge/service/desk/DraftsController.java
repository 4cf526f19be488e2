package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.compare.TextComparison;
import tidybridge.core.compare.TextMerge;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.Draft;
import tidybridge.records.DraftMoved;
import tidybridge.records.Drafts;
import tidybridge.records.Publisher;
import tidybridge.records.Records;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.Visitor;

/** Texts that are being worked on. Each change names the revision that its author has seen, as an entity tag (RFC 9110, 13.1). */
@RestController
@RequestMapping("/desk/drafts")
class DraftsController {

    private static final Pattern TAG = Pattern.compile("\"(\\d{1,9})\"");
    private static final Pattern NAME = Pattern.compile("[a-z][a-z0-9-]{0,62}");

    private final Records records;
    private final Clock clock;

    DraftsController(Records records, Clock clock) {
        this.records = records;
        this.clock = clock;
    }

    /**
     * A draft after one of its changes.
     *
     * @param restoredFrom the earlier revision whose text it has again
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record DraftView(
            String name,
            int major,
            int revision,
            String hash,
            @Nullable Integer restoredFrom,
            String changedBy,
            Instant changedAt,
            ModuleTexts.@Nullable TextView text) {

        static DraftView of(Draft draft, @Nullable ModuleText text) {
            return new DraftView(
                    draft.module(),
                    draft.major(),
                    draft.revision(),
                    draft.hash(),
                    draft.restoredFrom(),
                    draft.changedBy(),
                    draft.changedAt(),
                    text == null ? null : new ModuleTexts.TextView(text.folder(), text.files()));
        }
    }

    record DraftViews(List<DraftView> drafts) {
        static DraftViews of(List<Draft> drafts) {
            return new DraftViews(
                    drafts.stream().map(draft -> DraftView.of(draft, null)).toList());
        }
    }

    record RestoreRequest(@Nullable Integer revision) {}

    /**
     * A text to be brought together with what the draft is now.
     *
     * @param revision the one that the text began from
     */
    record MergeRequest(@Nullable Integer revision, ModuleTexts.@Nullable TextView text) {}

    /**
     * What came of it; nothing is saved.
     *
     * @param revision the one that the text was brought together with
     * @param unsettled the files in which both changed the same lines
     * @param theirs what the others changed since the text began
     */
    record MergeView(
            int revision,
            String changedBy,
            Instant changedAt,
            ModuleTexts.TextView text,
            List<String> unsettled,
            List<ReleaseViews.FileView> theirs) {}

    @GetMapping
    @DeskNeeds(ServicePrivilege.READ)
    DraftViews all() {
        return DraftViews.of(records.drafts().all());
    }

    @GetMapping("/{name}/v{major:\\d{1,5}}")
    @DeskNeeds(ServicePrivilege.READ)
    ResponseEntity<DraftView> one(@PathVariable("name") String name, @PathVariable("major") int major) {
        Draft draft = records.drafts().find(name, major).orElseThrow(() -> unknown(name, major));
        return answered(draft, text(draft));
    }

    private ModuleText text(Draft draft) {
        return records.drafts()
                .text(draft.module(), draft.major(), draft.revision())
                .orElseThrow(() -> unknown(draft.module(), draft.major()));
    }

    private static DeskRefusal unknown(String name, int major) {
        return new DeskRefusal(
                ProblemKind.ROW_UNKNOWN, "There is no draft of " + name + "/v" + major + "; './tidy push' begins one.");
    }

    private static ResponseEntity<DraftView> answered(Draft draft, @Nullable ModuleText text) {
        return ResponseEntity.ok()
                .header(HttpHeaders.ETAG, "\"" + draft.revision() + "\"")
                .body(DraftView.of(draft, text));
    }

    /** Changes a draft with {@code If-Match}, or begins one with {@code If-None-Match: *}. The text need not be finished. */
    @PutMapping(path = "/{name}/v{major:\\d{1,5}}", consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.EDIT)
    ResponseEntity<DraftView> save(
            @PathVariable("name") String name,
            @PathVariable("major") int major,
            @RequestBody ModuleTexts.TextView view,
            HttpServletRequest http) {
        if (!NAME.matcher(name).matches()) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT,
                    "A module's name has lower-case letters, digits and hyphens, and begins with a letter.");
        }
        ModuleText text = ModuleTexts.of(List.of(view)).getFirst();
        try {
            return answered(records.drafts().save(name, major, text, seen(http, true), by(http)), null);
        } catch (DraftMoved e) {
            throw moved(name, major, e);
        } catch (Drafts.DraftsFull e) {
            throw full();
        }
    }

    @DeleteMapping("/{name}/v{major:\\d{1,5}}")
    @DeskNeeds(ServicePrivilege.EDIT)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void drop(@PathVariable("name") String name, @PathVariable("major") int major, HttpServletRequest http) {
        try {
            records.drafts().drop(name, major, seenOne(http), by(http));
        } catch (DraftMoved e) {
            throw moved(name, major, e);
        }
    }

    /** What a draft was after each change, the newest first. */
    @GetMapping("/{name}/v{major:\\d{1,5}}/revisions")
    @DeskNeeds(ServicePrivilege.READ)
    DraftViews revisions(@PathVariable("name") String name, @PathVariable("major") int major) {
        List<Draft> revisions = records.drafts().revisions(name, major);
        if (revisions.isEmpty()) {
            throw unknown(name, major);
        }
        return DraftViews.of(revisions);
    }

    @GetMapping("/{name}/v{major:\\d{1,5}}/revisions/{revision}")
    @DeskNeeds(ServicePrivilege.READ)
    ResponseEntity<DraftView> revision(
            @PathVariable("name") String name,
            @PathVariable("major") int major,
            @PathVariable("revision") int revision) {
        Draft draft = records.drafts().revisions(name, major).stream()
                .filter(one -> one.revision() == revision)
                .findAny()
                .orElseThrow(() -> gone(revision));
        return ResponseEntity.ok(DraftView.of(draft, text(draft)));
    }

    private static DeskRefusal gone(int revision) {
        return new DeskRefusal(
                ProblemKind.ROW_UNKNOWN,
                "Revision " + revision + " is not kept; the newest " + Drafts.MOST_REVISIONS + " of each draft are.");
    }

    /** Gives a draft the text of an earlier revision, as its newest one. */
    @PostMapping(path = "/{name}/v{major:\\d{1,5}}/restored", consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.EDIT)
    ResponseEntity<DraftView> restore(
            @PathVariable("name") String name,
            @PathVariable("major") int major,
            @RequestBody RestoreRequest request,
            HttpServletRequest http) {
        Integer revision = request.revision();
        if (revision == null) {
            throw new DeskRefusal(ProblemKind.BAD_INPUT, "'revision' names the one whose text the draft gets again.");
        }
        try {
            return answered(
                    records.drafts()
                            .restore(name, major, revision, seenOne(http), by(http))
                            .orElseThrow(() -> gone(revision)),
                    null);
        } catch (DraftMoved e) {
            throw moved(name, major, e);
        } catch (Drafts.DraftsFull e) {
            throw full();
        }
    }

    /** Brings a text together with what others made of the draft meanwhile, line by line; nothing is saved. */
    @PostMapping(path = "/{name}/v{major:\\d{1,5}}/merged", consumes = MediaType.APPLICATION_JSON_VALUE)
    @DeskNeeds(ServicePrivilege.EDIT)
    MergeView merge(
            @PathVariable("name") String name, @PathVariable("major") int major, @RequestBody MergeRequest request) {
        Integer revision = request.revision();
        ModuleTexts.TextView view = request.text();
        if (revision == null || view == null) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "Send 'text', and in 'revision' the one that the text began from.");
        }
        Draft now = records.drafts().find(name, major).orElseThrow(() -> unknown(name, major));
        ModuleText theirs = text(now);
        ModuleText base = records.drafts().text(name, major, revision).orElseThrow(() -> gone(revision));
        ModuleText mine = ModuleTexts.of(List.of(view)).getFirst();
        TextMerge merge = TextMerge.of(base, mine, theirs);
        return new MergeView(
                now.revision(),
                now.changedBy(),
                now.changedAt(),
                new ModuleTexts.TextView(merge.text().folder(), merge.text().files()),
                List.copyOf(merge.unsettled()),
                ReleaseViews.FileView.of(TextComparison.of(base, theirs)));
    }

    private static int seenOne(HttpServletRequest http) {
        Integer seen = seen(http, false);
        if (seen == null) {
            throw new IllegalStateException("a revision is asked for");
        }
        return seen;
    }

    /** The revision that whoever asks has seen; null for none, where one may be begun. */
    private static @Nullable Integer seen(HttpServletRequest http, boolean mayBegin) {
        String match = http.getHeader(HttpHeaders.IF_MATCH);
        String none = http.getHeader(HttpHeaders.IF_NONE_MATCH);
        if (mayBegin && match == null && "*".equals(none)) {
            return null;
        }
        Matcher tag = TAG.matcher(match == null ? "" : match.strip());
        if (!tag.matches() || none != null) {
            throw new DeskRefusal(
                    ProblemKind.STATE_NEEDED,
                    "Send the ETag of the draft you have seen in If-Match"
                            + (mayBegin ? ", or 'If-None-Match: *' to begin one." : "."));
        }
        return Integer.valueOf(tag.group(1));
    }

    private static DeskRefusal moved(String name, int major, DraftMoved e) {
        Draft now = e.now();
        return new DeskRefusal(
                ProblemKind.STATE_CHANGED,
                now == null
                        ? "There is no draft of " + name + "/v" + major + " any more. Nothing was changed."
                        : now.changedBy() + " changed the draft of " + now.identity() + " at " + now.changedAt()
                                + ": it is at revision " + now.revision() + ". Nothing was changed.");
    }

    private static DeskRefusal full() {
        return new DeskRefusal(
                ProblemKind.CONFLICT,
                "There are " + Drafts.MOST_DRAFTS + " drafts already; throw some away with './tidy drafts drop'.");
    }

    private Publisher by(HttpServletRequest http) {
        Visitor visitor = Visitor.of(http);
        return new Publisher(visitor.who(), visitor.caller().address(), clock.instant());
    }
}
