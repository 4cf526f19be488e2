package tidybridge.records;

import static tidybridge.records.generated.Tables.QUOTA_USE;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.InsertValuesStep4;
import org.jooq.Record;
import org.jooq.impl.DSL;

/** How much of each quota all services over the store have used together. Thread-safe. */
public final class QuotaUses {

    /** The longest name of what is counted, in chars. */
    public static final int LONGEST_ID = 255;

    private static final int AT_ONCE = 500;
    private static final int FORGOTTEN_AT_ONCE = 10_000;

    private final DSLContext db;

    QuotaUses(DSLContext db) {
        this.db = db;
    }

    /**
     * Calls that were let through in one window.
     *
     * @param id of what is counted
     * @param count may be negative, for calls that were counted before and are taken back
     */
    public record Use(String id, Instant begunAt, Duration per, long count) {}

    /**
     * Adds what one service let through.
     *
     * @return what all services let through in the same windows, by id
     */
    public Map<String, Long> add(List<Use> uses) {
        Map<String, Long> totals = new HashMap<>();
        // in the same order everywhere, so that two services do not wait for each other
        List<Use> sorted = uses.stream().sorted(Comparator.comparing(Use::id)).toList();
        for (int from = 0; from < sorted.size(); from += AT_ONCE) {
            List<Use> some = sorted.subList(from, Math.min(sorted.size(), from + AT_ONCE));
            InsertValuesStep4<Record, String, LocalDateTime, LocalDateTime, Long> insert =
                    db.insertInto(QUOTA_USE, QUOTA_USE.ID, QUOTA_USE.BEGUN_AT, QUOTA_USE.ENDS_AT, QUOTA_USE.USED);
            for (Use use : some) {
                insert = insert.values(
                        use.id(),
                        Moments.stored(use.begunAt()),
                        Moments.stored(use.begunAt().plus(use.per())),
                        use.count());
            }
            insert.onDuplicateKeyUpdate()
                    .set(QUOTA_USE.USED, QUOTA_USE.USED.plus(DSL.excluded(QUOTA_USE.USED)))
                    .execute();
            totals.putAll(db.select(QUOTA_USE.ID, QUOTA_USE.USED)
                    .from(QUOTA_USE)
                    .where(DSL.row(QUOTA_USE.ID, QUOTA_USE.BEGUN_AT)
                            .in(some.stream()
                                    .map(use -> DSL.row(use.id(), Moments.stored(use.begunAt())))
                                    .toList()))
                    .fetchMap(QUOTA_USE.ID, QUOTA_USE.USED));
        }
        return totals;
    }

    /** Forgets windows that have ended; true when there may be more of them. */
    public boolean forget(Instant now) {
        return db.deleteFrom(QUOTA_USE)
                        .where(QUOTA_USE.ENDS_AT.lt(Moments.stored(now)))
                        .limit(FORGOTTEN_AT_ONCE)
                        .execute()
                == FORGOTTEN_AT_ONCE;
    }
}
