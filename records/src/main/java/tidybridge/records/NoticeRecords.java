package tidybridge.records;

import static tidybridge.records.generated.Tables.NOTICE;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/**
 * What is to be told to somebody outside, until it was told. Of several services over the store, one tells each: it claims a notice before it
 * begins, and another takes it up when the claim has ended without a word. Thread-safe.
 */
public final class NoticeRecords {

    /** How many may wait at once. */
    public static final int MOST_WAITING = 20_000;

    /** How many a list shows. */
    public static final int MOST_LISTED = 200;

    /** How long one is kept that does not wait any more. */
    public static final Duration KEPT = Duration.ofDays(14);

    private static final int LONGEST_SUBJECT = 255;
    private static final int LONGEST_TROUBLE = 500;

    private final DSLContext db;

    NoticeRecords(DSLContext db) {
        this.db = db;
    }

    /**
     * Keeps some that wait.
     *
     * @return false when so many wait already that these cannot; none is kept then
     */
    public boolean add(List<Notice> notices) {
        if (notices.isEmpty()) {
            return true;
        }
        int waiting = db.fetchCount(NOTICE, NOTICE.STATE.eq(Notice.State.WAITING.label()));
        if (waiting + notices.size() > MOST_WAITING) {
            return false;
        }
        db.batch(notices.stream()
                        .map(notice -> db.insertInto(NOTICE)
                                .set(NOTICE.WAY, notice.way().label())
                                .set(NOTICE.RECIPIENT, notice.recipient())
                                .set(NOTICE.TEAM, notice.team())
                                .set(NOTICE.KIND, notice.kind())
                                .set(NOTICE.SUBJECT, cut(notice.subject(), LONGEST_SUBJECT))
                                .set(NOTICE.CONTENT, notice.content())
                                .set(NOTICE.MADE_AT, Moments.stored(notice.madeAt()))
                                .set(NOTICE.STATE, Notice.State.WAITING.label())
                                .set(NOTICE.TRIES, 0)
                                .set(NOTICE.NEXT_AT, Moments.stored(notice.nextAt())))
                        .toList())
                .execute();
        return true;
    }

    /** Those that are to be tried now, the oldest first. */
    public List<Notice> due(Instant now, int most) {
        return db.selectFrom(NOTICE)
                .where(NOTICE.STATE.eq(Notice.State.WAITING.label()))
                .and(NOTICE.NEXT_AT.le(Moments.stored(now)))
                .orderBy(NOTICE.NEXT_AT, NOTICE.ID)
                .limit(most)
                .fetch(NoticeRecords::notice);
    }

    /** Claims one for whoever tries it until a moment; false when another did. */
    public boolean claim(Notice notice, Instant until) {
        return db.update(NOTICE)
                        .set(NOTICE.TRIES, notice.tries() + 1)
                        .set(NOTICE.NEXT_AT, Moments.stored(until))
                        .where(NOTICE.ID.eq(notice.id()))
                        .and(NOTICE.STATE.eq(Notice.State.WAITING.label()))
                        .and(NOTICE.TRIES.eq(notice.tries()))
                        .execute()
                == 1;
    }

    /**
     * Writes down how a try ended. Of one that does not wait any more the words are forgotten: a link in them may work still.
     *
     * @param at when it is tried next, or when it ended
     * @param trouble null when it was told
     */
    public void ended(Notice notice, Notice.State state, Instant at, @Nullable String trouble) {
        db.update(NOTICE)
                .set(NOTICE.STATE, state.label())
                .set(NOTICE.NEXT_AT, Moments.stored(at))
                .set(NOTICE.TROUBLE, trouble == null ? null : cut(trouble, LONGEST_TROUBLE))
                .set(NOTICE.CONTENT, state == Notice.State.WAITING ? notice.content() : "")
                .where(NOTICE.ID.eq(notice.id()))
                .and(NOTICE.TRIES.eq(notice.tries() + 1))
                .execute();
    }

    /** The newest ones. */
    public List<Notice> newest() {
        return db.selectFrom(NOTICE)
                .orderBy(NOTICE.ID.desc())
                .limit(MOST_LISTED)
                .fetch(NoticeRecords::notice);
    }

    /** Forgets those that ended long ago. */
    public void forget(Instant now) {
        db.deleteFrom(NOTICE)
                .where(NOTICE.STATE.ne(Notice.State.WAITING.label()))
                .and(NOTICE.NEXT_AT.lt(Moments.stored(now.minus(KEPT))))
                .limit(MOST_WAITING)
                .execute();
    }

    private static String cut(String text, int most) {
        return text.length() <= most ? text : text.substring(0, most);
    }

    private static Notice notice(Record row) {
        return new Notice(
                row.get(NOTICE.ID),
                Notice.Way.valueOf(row.get(NOTICE.WAY).toUpperCase(Locale.ROOT)),
                row.get(NOTICE.RECIPIENT),
                row.get(NOTICE.TEAM),
                row.get(NOTICE.KIND),
                row.get(NOTICE.SUBJECT),
                row.get(NOTICE.CONTENT),
                Moments.read(row.get(NOTICE.MADE_AT)),
                Notice.State.valueOf(
                        row.get(NOTICE.STATE).toUpperCase(Locale.ROOT).replace('-', '_')),
                row.get(NOTICE.TRIES),
                Moments.read(row.get(NOTICE.NEXT_AT)),
                row.get(NOTICE.TROUBLE));
    }
}
