package tidybridge.records;

import static tidybridge.records.generated.Tables.LIVE_RELEASE;
import static tidybridge.records.generated.Tables.MODULE_RELEASE;
import static tidybridge.records.generated.Tables.REVIEW;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectOnConditionStep;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.records.generated.tables.ModuleRelease;

/** Texts that somebody asks a second person to approve. Thread-safe; every change is one transaction, and one follows the other. */
public final class Reviews {

    /** How many may wait at once to be decided, or to be published. */
    public static final int MOST_WAITING = 500;

    /** How many a list shows. */
    public static final int MOST_LISTED = 200;

    /** How many texts are kept that were declined or withdrawn; what happened to the others is in the audit trail. */
    private static final int MOST_REFUSED = 500;

    private static final Condition WAITING = REVIEW.STATE.in(Review.State.OPEN.label(), Review.State.APPROVED.label());

    private static final ModuleRelease COMPARED = MODULE_RELEASE.as("compared");

    private final DSLContext db;

    Reviews(DSLContext db) {
        this.db = db;
    }

    /** The newest ones without their differences, those that wait first. */
    public List<Review> newest() {
        List<Review> all = new ArrayList<>(listed(WAITING));
        all.addAll(listed(WAITING.not()));
        return all.size() <= MOST_LISTED ? all : all.subList(0, MOST_LISTED);
    }

    private List<Review> listed(Condition which) {
        return brief(db)
                .where(which)
                .orderBy(REVIEW.ID.desc())
                .limit(MOST_LISTED)
                .fetch(Reviews::review);
    }

    /** One with its differences and findings; empty when there is none of that number. */
    public Optional<Review> find(long id) {
        return db.select(REVIEW.DIFFERENCES, REVIEW.FINDINGS)
                .select(BRIEF)
                .from(REVIEW)
                .leftJoin(COMPARED)
                .on(COMPARED.ID.eq(REVIEW.COMPARED_WITH))
                .where(REVIEW.ID.eq(id))
                .fetchOptional(Reviews::review);
    }

    /** The text that is to be approved; empty when there is no review of that number. */
    public Optional<ModuleText> text(long id) {
        return db.select(REVIEW.CONTENT)
                .from(REVIEW)
                .where(REVIEW.ID.eq(id))
                .fetchOptional(row -> ReleaseText.read(row.value1()));
    }

    /** What was asked last for a text under a version; empty for nothing. */
    public Optional<Review> of(String module, Version version, String hash) {
        return brief(db)
                .where(REVIEW.MODULE.eq(module))
                .and(REVIEW.VERSION.eq(version.toString()))
                .and(REVIEW.CONTENT_SHA256.eq(hash))
                .orderBy(REVIEW.ID.desc())
                .limit(1)
                .fetchOptional(Reviews::review);
    }

    private static final List<Field<?>> BRIEF = List.of(
            REVIEW.ID,
            REVIEW.MODULE,
            REVIEW.VERSION,
            REVIEW.CONTENT_SHA256,
            REVIEW.REPLACES_ID,
            REVIEW.NOTE,
            REVIEW.BREAKS_BECAUSE,
            REVIEW.CAME_FROM,
            REVIEW.ASKED_BY,
            REVIEW.ASKED_AT,
            REVIEW.STATE,
            REVIEW.DECIDED_BY,
            REVIEW.DECIDED_AT,
            REVIEW.WORDS,
            COMPARED.VERSION.as("compared_version"));

    private static SelectOnConditionStep<Record> brief(DSLContext db) {
        return db.select(BRIEF).from(REVIEW).leftJoin(COMPARED).on(COMPARED.ID.eq(REVIEW.COMPARED_WITH));
    }

    private static Review review(Record row) {
        String compared = row.get("compared_version", String.class);
        String decidedBy = row.get(REVIEW.DECIDED_BY);
        return new Review(
                row.get(REVIEW.ID),
                row.get(REVIEW.MODULE),
                Releases.version(row.get(REVIEW.VERSION)),
                row.get(REVIEW.CONTENT_SHA256),
                row.get(REVIEW.REPLACES_ID),
                compared == null ? null : Releases.version(compared),
                row.field(REVIEW.DIFFERENCES) == null ? null : row.get(REVIEW.DIFFERENCES),
                row.field(REVIEW.FINDINGS) == null ? null : row.get(REVIEW.FINDINGS),
                row.get(REVIEW.NOTE),
                row.get(REVIEW.BREAKS_BECAUSE),
                row.get(REVIEW.CAME_FROM),
                row.get(REVIEW.ASKED_BY),
                Moments.read(row.get(REVIEW.ASKED_AT)),
                Review.State.of(row.get(REVIEW.STATE)),
                decidedBy == null
                        ? null
                        : new Review.Decision(
                                decidedBy, Moments.read(row.get(REVIEW.DECIDED_AT)), row.get(REVIEW.WORDS)));
    }

    /**
     * Asks for the approval of a text. Whatever was open or approved under its version is withdrawn; the same text that still waits for the
     * same comparison stays as it is.
     *
     * @return the review that waits now
     * @throws ReviewClosed when too many wait already
     */
    public Review ask(NewRelease text, Publisher by) throws ReviewClosed {
        return changing(db -> {
            Reviews now = new Reviews(db);
            String content = ReleaseText.write(text.text());
            String hash = ReleaseText.hash(content);
            Review known = now.of(text.module(), text.version(), hash).orElse(null);
            boolean stands = known != null
                    && (known.state() == Review.State.OPEN || known.state() == Review.State.APPROVED)
                    && Objects.equals(known.replaces(), text.replaces())
                    && Objects.equals(known.note(), text.kept().note())
                    && Objects.equals(known.breaksBecause(), text.kept().breaksBecause());
            if (known != null && stands) {
                return known;
            }
            if (db.fetchCount(REVIEW, WAITING) >= MOST_WAITING) {
                throw new ReviewClosed("There are " + MOST_WAITING
                        + " reviews already that wait for somebody or are not published; have some taken back first.");
            }
            db.update(REVIEW)
                    .set(REVIEW.STATE, Review.State.WITHDRAWN.label())
                    .where(REVIEW.MODULE.eq(text.module()))
                    .and(REVIEW.VERSION.eq(text.version().toString()))
                    .and(WAITING)
                    .execute();
            Long id = insert(db, text, content, hash, by);
            forgetOldest(db);
            audit(db, by, "ask-review", text.module(), text.version(), "review " + id + " of " + hash);
            return now.find(id).orElseThrow();
        });
    }

    private static Long insert(DSLContext db, NewRelease text, String content, String hash, Publisher by) {
        KeptContract kept = text.kept();
        return Objects.requireNonNull(db.insertInto(REVIEW)
                .set(REVIEW.MODULE, text.module())
                .set(REVIEW.MAJOR, text.version().major())
                .set(REVIEW.VERSION, text.version().toString())
                .set(REVIEW.CONTENT, content)
                .set(REVIEW.CONTENT_SHA256, hash)
                .set(REVIEW.REPLACES_ID, text.replaces())
                .set(REVIEW.COMPARED_WITH, kept.comparedWith())
                .set(REVIEW.DIFFERENCES, kept.differences())
                .set(REVIEW.FINDINGS, kept.findings())
                .set(REVIEW.NOTE, kept.note())
                .set(REVIEW.BREAKS_BECAUSE, kept.breaksBecause())
                .set(REVIEW.CAME_FROM, kept.cameFrom())
                .set(REVIEW.ASKED_BY, by.who())
                .set(REVIEW.ASKED_AT, Moments.stored(by.at()))
                .set(REVIEW.STATE, Review.State.OPEN.label())
                .returningResult(REVIEW.ID)
                .fetchOne(REVIEW.ID));
    }

    private static void forgetOldest(DSLContext db) {
        Condition refused = REVIEW.STATE.in(Review.State.DECLINED.label(), Review.State.WITHDRAWN.label());
        Long oldest = db.select(REVIEW.ID)
                .from(REVIEW)
                .where(refused)
                .orderBy(REVIEW.ID.desc())
                .limit(1)
                .offset(MOST_REFUSED)
                .fetchOne(REVIEW.ID);
        if (oldest != null) {
            db.deleteFrom(REVIEW).where(refused).and(REVIEW.ID.le(oldest)).execute();
        }
    }

    /**
     * Approves or declines.
     *
     * @param state what is decided
     * @param words what whoever decides says of it; null for nothing
     * @throws ReviewClosed when it does not wait any more, or something else went live since it was asked for
     */
    public Review decide(long id, Review.State state, @Nullable String words, Publisher by) throws ReviewClosed {
        return changing(db -> {
            Review review = open(db, id);
            if (state == Review.State.APPROVED) {
                refuseMoved(db, review);
            }
            db.update(REVIEW)
                    .set(REVIEW.STATE, state.label())
                    .set(REVIEW.DECIDED_BY, by.who())
                    .set(REVIEW.DECIDED_AT, Moments.stored(by.at()))
                    .set(REVIEW.WORDS, words)
                    .where(REVIEW.ID.eq(id))
                    .execute();
            String action = state == Review.State.APPROVED ? "approve" : "decline";
            audit(db, by, action, review.module(), review.version(), "review " + id + " of " + review.hash());
            return new Reviews(db).find(id).orElseThrow();
        });
    }

    /**
     * Takes back what was asked for, or what was approved and not published.
     *
     * @throws ReviewClosed when it does not wait any more
     */
    public void withdraw(long id, Publisher by) throws ReviewClosed {
        changing(db -> {
            Review review = locked(db, id);
            if (review.state() != Review.State.OPEN && review.state() != Review.State.APPROVED) {
                throw new ReviewClosed("Review " + id + " is " + review.state().label() + " already.");
            }
            db.update(REVIEW)
                    .set(REVIEW.STATE, Review.State.WITHDRAWN.label())
                    .where(REVIEW.ID.eq(id))
                    .execute();
            audit(db, by, "withdraw-review", review.module(), review.version(), "review " + id);
            return review;
        });
    }

    /** Notes in the transaction that publishes a text that it was approved for what is live before; false when it was not. */
    static boolean use(DSLContext db, long id, Release release, @Nullable Long before) {
        return db.update(REVIEW)
                        .set(REVIEW.STATE, Review.State.PUBLISHED.label())
                        .set(REVIEW.RELEASE_ID, release.id())
                        .where(REVIEW.ID.eq(id))
                        .and(REVIEW.STATE.eq(Review.State.APPROVED.label()))
                        .and(REVIEW.CONTENT_SHA256.eq(release.hash()))
                        .and(before == null ? REVIEW.REPLACES_ID.isNull() : REVIEW.REPLACES_ID.eq(before))
                        .execute()
                == 1;
    }

    private static Review open(DSLContext db, long id) throws ReviewClosed {
        Review review = locked(db, id);
        if (review.state() != Review.State.OPEN) {
            throw new ReviewClosed("Review " + id + " is " + review.state().label() + " already.");
        }
        return review;
    }

    private static Review locked(DSLContext db, long id) throws ReviewClosed {
        return brief(db)
                .where(REVIEW.ID.eq(id))
                .forUpdate()
                .fetchOptional(Reviews::review)
                .orElseThrow(() -> new ReviewClosed("There is no review " + id + " any more."));
    }

    private static void refuseMoved(DSLContext db, Review review) throws ReviewClosed {
        Long live = db.select(LIVE_RELEASE.RELEASE_ID)
                .from(LIVE_RELEASE)
                .where(LIVE_RELEASE.MODULE.eq(review.module()))
                .and(LIVE_RELEASE.MAJOR.eq(review.version().major()))
                .fetchOne(LIVE_RELEASE.RELEASE_ID);
        if (!Objects.equals(live, review.replaces())) {
            throw new ReviewClosed("Something else went live under v"
                    + review.version().major() + " since review " + review.id()
                    + " was asked for, so what it compares is not what callers would meet; ask for it anew.");
        }
    }

    private static void audit(
            DSLContext db, Publisher by, String action, String module, Version version, String detail) {
        AuditTrail.write(
                db,
                new AuditEntry(
                        by.at(),
                        by.who(),
                        by.address(),
                        action,
                        module + "/v" + version.major(),
                        "version " + version + ", " + detail));
    }

    /** What one transaction does to reviews. */
    private interface Changing {
        Review change(DSLContext db) throws ReviewClosed;
    }

    private Review changing(Changing changing) throws ReviewClosed {
        try {
            return InOrder.run(db, changing::change);
        } catch (DataAccessException e) {
            InOrder.rethrow(e, ReviewClosed.class);
            throw e;
        }
    }
}
