package tidybridge.records;

import static tidybridge.records.generated.Tables.CALL_OUTCOME;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.exception.IntegrityConstraintViolationException;

/**
 * What was answered to requests with an idempotency key, so that a repeated one is answered alike and changes nothing. Thread-safe.
 *
 * <p>A key is claimed before a request's statements run, and its outcome is written with them, in the same transaction where the source can
 * reach this table ({@link #finishing}), or after them ({@link #finish}). In the first case a claim whose owner died can be taken over: the
 * row's own lock decides who writes. In the second nobody can know whether the statements were kept, and the claim stays as it is.
 */
public final class CallOutcomes {

    private static final int MOST_TRIES = 3;
    private static final int FORGOTTEN_AT_ONCE = 10_000;
    private static final int RENEWED_AT_ONCE = 200;

    private final DSLContext db;

    CallOutcomes(DSLContext db) {
        this.db = db;
    }

    /**
     * A statement that writes an outcome from a source's own transaction: status, headers, body, then key and claim. It changes one row,
     * or none when the claim is no longer whose it was.
     *
     * @param schema the record store's
     */
    public static String finishing(String schema) {
        return "update `" + schema.replace("`", "``")
                + "`.call_outcome set status = ?, headers = ?, body = ? where key_sha256 = ? and claim = ? and status is null";
    }

    /**
     * Claims a key.
     *
     * @param fingerprint of the whole request
     * @param together whether the outcome will be written by {@link #finishing}
     * @param lease after which whoever claimed it is taken for dead
     * @param kept how long the outcome is remembered
     */
    public Claim claim(String key, String fingerprint, boolean together, Instant now, Duration lease, Duration kept) {
        String claim = UUID.randomUUID().toString();
        for (int tried = 0; tried < MOST_TRIES; tried++) {
            if (insert(key, fingerprint, claim, together, now, lease, kept)) {
                return new Claim.Mine(key, claim);
            }
            Record known = db.selectFrom(CALL_OUTCOME)
                    .where(CALL_OUTCOME.KEY_SHA256.eq(key))
                    .fetchOne();
            if (known != null && known.get(CALL_OUTCOME.EXPIRES_AT).isBefore(utc(now))) {
                release(new Claim.Mine(key, known.get(CALL_OUTCOME.CLAIM)));
            } else if (known != null) {
                Claim answer = known(known, fingerprint, now);
                boolean free = answer instanceof Claim.Unknown && known.get(CALL_OUTCOME.TOGETHER);
                if (!free) {
                    return answer;
                }
                if (takeOver(known, claim, now, lease)) {
                    return new Claim.Mine(key, claim);
                }
            }
        }
        return new Claim.Busy();
    }

    private boolean insert(
            String key,
            String fingerprint,
            String claim,
            boolean together,
            Instant now,
            Duration lease,
            Duration kept) {
        try {
            db.insertInto(CALL_OUTCOME)
                    .set(CALL_OUTCOME.KEY_SHA256, key)
                    .set(CALL_OUTCOME.FINGERPRINT, fingerprint)
                    .set(CALL_OUTCOME.CLAIM, claim)
                    .set(CALL_OUTCOME.TOGETHER, together)
                    .set(CALL_OUTCOME.LEASE_UNTIL, utc(now.plus(lease)))
                    .set(CALL_OUTCOME.EXPIRES_AT, utc(now.plus(kept)))
                    .execute();
            return true;
        } catch (IntegrityConstraintViolationException e) {
            return false;
        }
    }

    private static Claim known(Record row, String fingerprint, Instant now) {
        if (!row.get(CALL_OUTCOME.FINGERPRINT).equals(fingerprint)) {
            return new Claim.Different();
        }
        Integer status = row.get(CALL_OUTCOME.STATUS);
        if (status != null) {
            return new Claim.Finished(new Outcome(status, row.get(CALL_OUTCOME.HEADERS), row.get(CALL_OUTCOME.BODY)));
        }
        return row.get(CALL_OUTCOME.LEASE_UNTIL).isBefore(utc(now)) ? new Claim.Unknown() : new Claim.Busy();
    }

    /** Waits for a transaction that is writing the outcome at this moment; then there is nothing left to take over. */
    private boolean takeOver(Record known, String claim, Instant now, Duration lease) {
        return db.update(CALL_OUTCOME)
                        .set(CALL_OUTCOME.CLAIM, claim)
                        .set(CALL_OUTCOME.LEASE_UNTIL, utc(now.plus(lease)))
                        .where(CALL_OUTCOME.KEY_SHA256.eq(known.get(CALL_OUTCOME.KEY_SHA256)))
                        .and(CALL_OUTCOME.CLAIM.eq(known.get(CALL_OUTCOME.CLAIM)))
                        .and(CALL_OUTCOME.STATUS.isNull())
                        .execute()
                == 1;
    }

    /** Writes the outcome of a claim after its statements were kept, or refused. */
    public void finish(Claim.Mine mine, Outcome outcome) {
        db.update(CALL_OUTCOME)
                .set(CALL_OUTCOME.STATUS, outcome.status())
                .set(CALL_OUTCOME.HEADERS, outcome.headers())
                .set(CALL_OUTCOME.BODY, outcome.body())
                .where(CALL_OUTCOME.KEY_SHA256.eq(mine.key()))
                .and(CALL_OUTCOME.CLAIM.eq(mine.claim()))
                .execute();
    }

    /** Gives a claim back: nothing was changed, and the request may be sent again. */
    public void release(Claim.Mine mine) {
        db.deleteFrom(CALL_OUTCOME)
                .where(CALL_OUTCOME.KEY_SHA256.eq(mine.key()))
                .and(CALL_OUTCOME.CLAIM.eq(mine.claim()))
                .execute();
    }

    /** Ends a claim's lease: nobody works on it any more, and what came of it is not known. */
    public void abandon(Claim.Mine mine, Instant now) {
        db.update(CALL_OUTCOME)
                .set(CALL_OUTCOME.LEASE_UNTIL, utc(now.minusMillis(1)))
                .where(CALL_OUTCOME.KEY_SHA256.eq(mine.key()))
                .and(CALL_OUTCOME.CLAIM.eq(mine.claim()))
                .execute();
    }

    /** Prolongs the leases of claims whose requests are still under way. */
    public void renew(List<Claim.Mine> claims, Instant until) {
        for (int from = 0; from < claims.size(); from += RENEWED_AT_ONCE) {
            List<Claim.Mine> some = claims.subList(from, Math.min(from + RENEWED_AT_ONCE, claims.size()));
            db.update(CALL_OUTCOME)
                    .set(CALL_OUTCOME.LEASE_UNTIL, utc(until))
                    .where(CALL_OUTCOME.KEY_SHA256.in(
                            some.stream().map(Claim.Mine::key).toList()))
                    .and(CALL_OUTCOME.CLAIM.in(
                            some.stream().map(Claim.Mine::claim).toList()))
                    .and(CALL_OUTCOME.STATUS.isNull())
                    .execute();
        }
    }

    /** Forgets some of the outcomes that are no longer to be kept; true when there may be more. */
    public boolean forget(Instant now) {
        return db.deleteFrom(CALL_OUTCOME)
                        .where(CALL_OUTCOME.EXPIRES_AT.lt(utc(now)))
                        .limit(FORGOTTEN_AT_ONCE)
                        .execute()
                == FORGOTTEN_AT_ONCE;
    }

    private static LocalDateTime utc(Instant instant) {
        return LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
    }
}
