package tidybridge.records;

import static tidybridge.records.generated.Tables.DRAFT_REVISION;

import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SelectJoinStep;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;
import tidybridge.records.generated.tables.DraftRevision;

/** Texts that are being worked on. Thread-safe; every change is one transaction, and nobody changes what they have not seen. */
public final class Drafts {

    /** How many drafts there may be. */
    public static final int MOST_DRAFTS = 2_000;

    /** How many revisions of a draft are kept; the oldest go first. */
    public static final int MOST_REVISIONS = 100;

    /** How long the revisions of a draft may be together; the newest is kept in any case. */
    static final long MOST_KEPT_BYTES = 32_000_000;

    private static final DraftRevision LATER = DRAFT_REVISION.as("later");

    private final DSLContext db;

    Drafts(DSLContext db) {
        this.db = db;
    }

    /** All drafts, by module and major version. */
    public List<Draft> all() {
        return brief().where(DSL.notExists(DSL.selectOne()
                        .from(LATER)
                        .where(LATER.MODULE.eq(DRAFT_REVISION.MODULE))
                        .and(LATER.MAJOR.eq(DRAFT_REVISION.MAJOR))
                        .and(LATER.REVISION.gt(DRAFT_REVISION.REVISION))))
                .orderBy(DRAFT_REVISION.MODULE, DRAFT_REVISION.MAJOR)
                .fetch(Drafts::draft);
    }

    /** A draft as it is; empty for none. */
    public Optional<Draft> find(String module, int major) {
        return newest(db, module, major);
    }

    /** What a draft was after each change that is kept, the newest first. */
    public List<Draft> revisions(String module, int major) {
        return brief().where(of(module, major))
                .orderBy(DRAFT_REVISION.REVISION.desc())
                .fetch(Drafts::draft);
    }

    /** The text of a draft after one change; empty for a revision that is not kept. */
    public Optional<ModuleText> text(String module, int major, int revision) {
        return db.select(DRAFT_REVISION.CONTENT)
                .from(DRAFT_REVISION)
                .where(of(module, major))
                .and(DRAFT_REVISION.REVISION.eq(revision))
                .fetchOptional(row -> ReleaseText.read(row.value1()));
    }

    /**
     * Changes a draft, or begins one. A text that is there already stays as it is.
     *
     * @param seen the revision that whoever changes it has seen; null for none
     * @throws DraftMoved when another one is there
     * @throws DraftsFull when there are too many drafts
     */
    public Draft save(String module, int major, ModuleText text, @Nullable Integer seen, Publisher by)
            throws DraftMoved, DraftsFull {
        return changing(db -> save(db, module, major, text, seen, null, by));
    }

    /**
     * Gives a draft the text of an earlier revision.
     *
     * @param revision the earlier one
     * @param seen the one that whoever restores it has seen
     * @return empty when the earlier revision is not kept
     */
    public Optional<Draft> restore(String module, int major, int revision, int seen, Publisher by)
            throws DraftMoved, DraftsFull {
        ModuleText text = text(module, major, revision).orElse(null);
        return text == null
                ? Optional.empty()
                : Optional.of(changing(db -> save(db, module, major, text, seen, revision, by)));
    }

    /**
     * Throws a draft away with its revisions.
     *
     * @param seen the revision that whoever throws it away has seen
     */
    public void drop(String module, int major, int seen, Publisher by) throws DraftMoved {
        try {
            changing(db -> {
                Draft now = seen(db, module, major, seen);
                db.deleteFrom(DRAFT_REVISION).where(of(module, major)).execute();
                audit(db, by, "drop-draft", module, major, "revision " + seen);
                return Objects.requireNonNull(now);
            });
        } catch (DraftsFull e) {
            throw new IllegalStateException("nothing is added here", e);
        }
    }

    private static Draft save(
            DSLContext db,
            String module,
            int major,
            ModuleText text,
            @Nullable Integer seen,
            @Nullable Integer restoredFrom,
            Publisher by)
            throws DraftMoved, DraftsFull {
        String content = ReleaseText.write(text);
        String hash = ReleaseText.hash(content);
        Draft now = seen(db, module, major, seen);
        if (now != null && now.hash().equals(hash)) {
            return now;
        }
        if (now == null && count(db) >= MOST_DRAFTS) {
            throw new DraftsFull();
        }
        int revision = now == null ? 1 : now.revision() + 1;
        db.insertInto(DRAFT_REVISION)
                .set(DRAFT_REVISION.MODULE, module)
                .set(DRAFT_REVISION.MAJOR, major)
                .set(DRAFT_REVISION.REVISION, revision)
                .set(DRAFT_REVISION.CONTENT, content)
                .set(DRAFT_REVISION.CONTENT_SHA256, hash)
                .set(DRAFT_REVISION.RESTORED_FROM, restoredFrom)
                .set(DRAFT_REVISION.CHANGED_BY, by.who())
                .set(DRAFT_REVISION.CHANGED_AT, Moments.stored(by.at()))
                .execute();
        forgetOldest(db, module, major);
        return newest(db, module, major).orElseThrow();
    }

    private static void forgetOldest(DSLContext db, String module, int major) {
        long bytes = 0;
        int kept = 0;
        for (var row : db.select(DRAFT_REVISION.REVISION, DSL.octetLength(DRAFT_REVISION.CONTENT))
                .from(DRAFT_REVISION)
                .where(of(module, major))
                .orderBy(DRAFT_REVISION.REVISION.desc())) {
            bytes += row.value2();
            if (kept > 0 && bytes > MOST_KEPT_BYTES || kept == MOST_REVISIONS) {
                db.deleteFrom(DRAFT_REVISION)
                        .where(of(module, major))
                        .and(DRAFT_REVISION.REVISION.le(row.value1()))
                        .execute();
                return;
            }
            kept++;
        }
    }

    private static int count(DSLContext db) {
        return db.fetchCount(
                db.selectDistinct(DRAFT_REVISION.MODULE, DRAFT_REVISION.MAJOR).from(DRAFT_REVISION));
    }

    /** The draft as it is, which must be what was seen. */
    private static @Nullable Draft seen(DSLContext db, String module, int major, @Nullable Integer seen)
            throws DraftMoved {
        Draft now = newest(db, module, major).orElse(null);
        if (!Objects.equals(seen, now == null ? null : now.revision())) {
            throw new DraftMoved(now);
        }
        return now;
    }

    private static Optional<Draft> newest(DSLContext db, String module, int major) {
        return brief(db)
                .where(of(module, major))
                .orderBy(DRAFT_REVISION.REVISION.desc())
                .limit(1)
                .fetchOptional(Drafts::draft);
    }

    private static Condition of(String module, int major) {
        return DRAFT_REVISION.MODULE.eq(module).and(DRAFT_REVISION.MAJOR.eq(major));
    }

    private SelectJoinStep<? extends Record> brief() {
        return brief(db);
    }

    private static SelectJoinStep<? extends Record> brief(DSLContext db) {
        return db.select(
                        DRAFT_REVISION.MODULE,
                        DRAFT_REVISION.MAJOR,
                        DRAFT_REVISION.REVISION,
                        DRAFT_REVISION.CONTENT_SHA256,
                        DRAFT_REVISION.RESTORED_FROM,
                        DRAFT_REVISION.CHANGED_BY,
                        DRAFT_REVISION.CHANGED_AT)
                .from(DRAFT_REVISION);
    }

    private static Draft draft(Record row) {
        return new Draft(
                row.get(DRAFT_REVISION.MODULE),
                row.get(DRAFT_REVISION.MAJOR),
                row.get(DRAFT_REVISION.REVISION),
                row.get(DRAFT_REVISION.CONTENT_SHA256),
                row.get(DRAFT_REVISION.RESTORED_FROM),
                row.get(DRAFT_REVISION.CHANGED_BY),
                Moments.read(row.get(DRAFT_REVISION.CHANGED_AT)));
    }

    private static void audit(DSLContext db, Publisher by, String action, String module, int major, String detail) {
        AuditTrail.write(db, new AuditEntry(by.at(), by.who(), by.address(), action, module + "/v" + major, detail));
    }

    /** There are too many drafts. */
    public static final class DraftsFull extends Exception {
        DraftsFull() {
            super("", null, false, false);
        }
    }

    /** What one transaction does to drafts. */
    private interface Changing {
        Draft change(DSLContext db) throws DraftMoved, DraftsFull;
    }

    private Draft changing(Changing changing) throws DraftMoved, DraftsFull {
        try {
            return InOrder.run(db, changing::change);
        } catch (DataAccessException e) {
            InOrder.rethrow(e, DraftMoved.class);
            InOrder.rethrow(e, DraftsFull.class);
            throw e;
        }
    }
}
