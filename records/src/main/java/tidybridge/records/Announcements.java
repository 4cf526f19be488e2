package tidybridge.records;

import static tidybridge.records.generated.Tables.ANNOUNCEMENT;

import java.util.List;
import org.jooq.DSLContext;

/** What owners tell those who call their modules. Thread-safe. */
public final class Announcements {

    /** How many of one module are told. */
    public static final int MOST_TOLD = 100;

    private final DSLContext db;

    Announcements(DSLContext db) {
        this.db = db;
    }

    /** Keeps one; its number does not matter. */
    public void add(Announcement announcement, AuditEntry entry) {
        db.transaction(transaction -> {
            DSLContext inside = transaction.dsl();
            AuditTrail.lock(inside);
            inside.insertInto(ANNOUNCEMENT)
                    .set(ANNOUNCEMENT.MODULE, announcement.module())
                    .set(ANNOUNCEMENT.TITLE, announcement.title())
                    .set(ANNOUNCEMENT.WORDS, announcement.words())
                    .set(ANNOUNCEMENT.SAID_BY, announcement.by())
                    .set(ANNOUNCEMENT.SAID_AT, Moments.stored(announcement.at()))
                    .execute();
            AuditTrail.write(inside, entry);
        });
    }

    /** Those of a module, the newest first. */
    public List<Announcement> of(String module) {
        return db.selectFrom(ANNOUNCEMENT)
                .where(ANNOUNCEMENT.MODULE.eq(module))
                .orderBy(ANNOUNCEMENT.ID.desc())
                .limit(MOST_TOLD)
                .fetch(row -> new Announcement(
                        row.get(ANNOUNCEMENT.ID),
                        row.get(ANNOUNCEMENT.MODULE),
                        row.get(ANNOUNCEMENT.TITLE),
                        row.get(ANNOUNCEMENT.WORDS),
                        row.get(ANNOUNCEMENT.SAID_BY),
                        Moments.read(row.get(ANNOUNCEMENT.SAID_AT))));
    }
}
