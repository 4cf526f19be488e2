package tidybridge.records;

import static tidybridge.records.generated.Tables.SIGN_IN_CODE;

import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/** The codes of links that sign somebody in, once; only their hashes are kept. Thread-safe. */
public final class SignInCodes {

    private final DSLContext db;

    SignInCodes(DSLContext db) {
        this.db = db;
    }

    /**
     * Keeps a code that opens one session, or lets a person choose a password.
     *
     * @param person null for the administrator's link
     */
    public void add(String hash, @Nullable String person, Instant endsAt, AuditEntry entry) {
        db.transaction(transaction -> {
            DSLContext inside = transaction.dsl();
            AuditTrail.lock(inside);
            inside.deleteFrom(SIGN_IN_CODE)
                    .where(SIGN_IN_CODE.ENDS_AT.le(Moments.stored(entry.at())))
                    .execute();
            inside.insertInto(SIGN_IN_CODE)
                    .set(SIGN_IN_CODE.SHA256, hash)
                    .set(SIGN_IN_CODE.PERSON, person)
                    .set(SIGN_IN_CODE.ENDS_AT, Moments.stored(endsAt))
                    .execute();
            AuditTrail.write(inside, entry);
        });
    }

    /**
     * What became of a code.
     *
     * @param known false for one that is unknown, used or too old
     * @param person whose it was; null for the administrator's link
     */
    public record Code(boolean known, @Nullable String person) {}

    /** Looks at a code without using it up. */
    public Code look(String hash, Instant now) {
        List<@Nullable String> found = db.select(SIGN_IN_CODE.PERSON)
                .from(SIGN_IN_CODE)
                .where(SIGN_IN_CODE.SHA256.eq(hash))
                .and(SIGN_IN_CODE.ENDS_AT.gt(Moments.stored(now)))
                .fetch(SIGN_IN_CODE.PERSON);
        return new Code(!found.isEmpty(), found.isEmpty() ? null : found.getFirst());
    }

    /** Uses up a code; of several that try at once, one succeeds. */
    public boolean use(String hash) {
        return db.deleteFrom(SIGN_IN_CODE).where(SIGN_IN_CODE.SHA256.eq(hash)).execute() == 1;
    }
}
