package tidybridge.records;

import static tidybridge.records.generated.Tables.LIVE_RELEASE;
import static tidybridge.records.generated.Tables.RELEASE_DRIFT;

import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;

/** What no longer fits the databases of live releases, as the node that looked last found it. The store reads none of it. Thread-safe. */
public final class DriftRecords {

    private final DSLContext db;

    DriftRecords(DSLContext db) {
        this.db = db;
    }

    /**
     * What was found of a live release.
     *
     * @param notes as JSON
     */
    public record Entry(long release, Instant lookedAt, String notes) {}

    public void keep(Entry entry) {
        db.insertInto(RELEASE_DRIFT)
                .set(RELEASE_DRIFT.RELEASE_ID, entry.release())
                .set(RELEASE_DRIFT.LOOKED_AT, Moments.stored(entry.lookedAt()))
                .set(RELEASE_DRIFT.NOTES, entry.notes())
                .onDuplicateKeyUpdate()
                .set(RELEASE_DRIFT.LOOKED_AT, Moments.stored(entry.lookedAt()))
                .set(RELEASE_DRIFT.NOTES, entry.notes())
                .execute();
    }

    /** Forgets what was found of releases that are not live any more. */
    public void forgetOthers() {
        db.deleteFrom(RELEASE_DRIFT)
                .where(RELEASE_DRIFT.RELEASE_ID.notIn(
                        db.select(LIVE_RELEASE.RELEASE_ID).from(LIVE_RELEASE)))
                .execute();
    }

    /** What was found of everything that is live. */
    public List<Entry> live() {
        return db.select(RELEASE_DRIFT.RELEASE_ID, RELEASE_DRIFT.LOOKED_AT, RELEASE_DRIFT.NOTES)
                .from(RELEASE_DRIFT)
                .join(LIVE_RELEASE)
                .on(LIVE_RELEASE.RELEASE_ID.eq(RELEASE_DRIFT.RELEASE_ID))
                .fetch(row -> new Entry(row.value1(), Moments.read(row.value2()), row.value3()));
    }
}
