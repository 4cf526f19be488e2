package tidybridge.records;

import static tidybridge.records.generated.Tables.LIVE_RELEASE;
import static tidybridge.records.generated.Tables.RELEASE_EXAMPLES;

import java.time.Instant;
import java.util.Optional;
import org.jooq.DSLContext;

/** What live releases answer to the examples of their texts. The store reads none of it. Thread-safe. */
public final class ExampleRecords {

    private final DSLContext db;

    ExampleRecords(DSLContext db) {
        this.db = db;
    }

    /**
     * Keeps what a release answered, in place of what was kept of it.
     *
     * @param examples as JSON
     */
    public void keep(long release, Instant at, String examples) {
        db.insertInto(RELEASE_EXAMPLES)
                .set(RELEASE_EXAMPLES.RELEASE_ID, release)
                .set(RELEASE_EXAMPLES.RECORDED_AT, Moments.stored(at))
                .set(RELEASE_EXAMPLES.EXAMPLES, examples)
                .onDuplicateKeyUpdate()
                .set(RELEASE_EXAMPLES.RECORDED_AT, Moments.stored(at))
                .set(RELEASE_EXAMPLES.EXAMPLES, examples)
                .execute();
    }

    /** What is kept of a release, as JSON; empty when nothing was recorded yet. */
    public Optional<String> of(long release) {
        return db.select(RELEASE_EXAMPLES.EXAMPLES)
                .from(RELEASE_EXAMPLES)
                .where(RELEASE_EXAMPLES.RELEASE_ID.eq(release))
                .fetchOptional(RELEASE_EXAMPLES.EXAMPLES);
    }

    /** Forgets what was answered by releases that are not live any more. */
    public void forgetOthers() {
        db.deleteFrom(RELEASE_EXAMPLES)
                .where(RELEASE_EXAMPLES.RELEASE_ID.notIn(
                        db.select(LIVE_RELEASE.RELEASE_ID).from(LIVE_RELEASE)))
                .execute();
    }
}
