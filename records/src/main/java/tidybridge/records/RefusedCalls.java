package tidybridge.records;

import static tidybridge.records.generated.Tables.REFUSED_CALL;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.InsertSetMoreStep;
import org.jooq.InsertSetStep;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;

/** The calls that were refused lately, by whichever service. Thread-safe. */
public final class RefusedCalls {

    /** How many are kept. */
    public static final int MOST_KEPT = 100_000;

    /** How long one is kept. */
    public static final Duration KEPT = Duration.ofDays(7);

    private static final int LONGEST_REASON = 1_000;
    private static final int LONGEST_OPERATION = 255;
    private static final int FORGOTTEN_AT_ONCE = 10_000;

    private final DSLContext db;

    RefusedCalls(DSLContext db) {
        this.db = db;
    }

    /** Writes some down. */
    public void add(List<RefusedCall> calls) {
        InsertSetStep<Record> rows = db.insertInto(REFUSED_CALL);
        InsertSetMoreStep<Record> written = null;
        for (RefusedCall call : calls) {
            written = (written == null ? rows : written.newRecord())
                    .set(REFUSED_CALL.AT, Moments.stored(call.at()))
                    .set(REFUSED_CALL.REQUEST_ID, call.requestId())
                    .set(REFUSED_CALL.MODULE, call.module())
                    .set(REFUSED_CALL.OPERATION, cut(call.operation(), LONGEST_OPERATION))
                    .set(REFUSED_CALL.WHO, cut(call.who(), Records.LONGEST_WHO))
                    .set(REFUSED_CALL.ADDRESS, call.address())
                    .set(REFUSED_CALL.STATUS, call.status())
                    .set(REFUSED_CALL.CODE, call.code())
                    .set(REFUSED_CALL.REASON, cut(call.reason(), LONGEST_REASON));
        }
        if (written != null) {
            written.execute();
        }
    }

    private static @Nullable String cut(@Nullable String text, int most) {
        return text == null || text.length() <= most ? text : text.substring(0, most);
    }

    /** The newest first. */
    public List<RefusedCall> last(int most) {
        return db.selectFrom(REFUSED_CALL)
                .orderBy(REFUSED_CALL.ID.desc())
                .limit(most)
                .fetch(RefusedCalls::call);
    }

    /** Those of one caller, the newest first. */
    public List<RefusedCall> by(String who, int most) {
        return db.selectFrom(REFUSED_CALL)
                .where(REFUSED_CALL.WHO.eq(who))
                .orderBy(REFUSED_CALL.ID.desc())
                .limit(most)
                .fetch(RefusedCalls::call);
    }

    /** Those of one request, the newest first; a caller may name several requests alike. */
    public List<RefusedCall> of(String requestId, int most) {
        return db.selectFrom(REFUSED_CALL)
                .where(REFUSED_CALL.REQUEST_ID.eq(requestId))
                .orderBy(REFUSED_CALL.ID.desc())
                .limit(most)
                .fetch(RefusedCalls::call);
    }

    /** Forgets what is too old, or too much; true when there may be more of it. */
    public boolean forget(Instant now) {
        Long newest = db.select(DSL.max(REFUSED_CALL.ID)).from(REFUSED_CALL).fetchOne(DSL.max(REFUSED_CALL.ID));
        return newest != null
                && db.deleteFrom(REFUSED_CALL)
                                .where(REFUSED_CALL
                                        .ID
                                        .le(newest - MOST_KEPT)
                                        .or(REFUSED_CALL.AT.lt(Moments.stored(now.minus(KEPT)))))
                                .orderBy(REFUSED_CALL.ID)
                                .limit(FORGOTTEN_AT_ONCE)
                                .execute()
                        == FORGOTTEN_AT_ONCE;
    }

    private static RefusedCall call(Record row) {
        return new RefusedCall(
                Moments.read(row.get(REFUSED_CALL.AT)),
                row.get(REFUSED_CALL.REQUEST_ID),
                row.get(REFUSED_CALL.MODULE),
                row.get(REFUSED_CALL.OPERATION),
                row.get(REFUSED_CALL.WHO),
                row.get(REFUSED_CALL.ADDRESS),
                row.get(REFUSED_CALL.STATUS),
                row.get(REFUSED_CALL.CODE),
                row.get(REFUSED_CALL.REASON));
    }
}
