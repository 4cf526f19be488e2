package tidybridge.records;

import static tidybridge.records.generated.Tables.AUDIT_ENTRY;
import static tidybridge.records.generated.Tables.AUDIT_HEAD;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.json.JsonWriteFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * Who did what, in an order that nobody can change unnoticed: each entry holds the SHA-256 of itself and of the one before it. Entries are
 * added only. Thread-safe.
 *
 * <p>The hash of an entry is that of a JSON array in its one canonical form (RFC 8785): the hash before it (64 zeros for the first), the moment
 * (RFC 3339, UTC, with milliseconds where there are some), who, address, action, subject, detail, state before, state after; what is absent is
 * null.
 */
public final class AuditTrail {

    /** The longest state that is kept, in chars; a longer one is cut. */
    static final int LONGEST_STATE = 1_000_000;

    private static final int LONGEST_SUBJECT = 255;
    private static final int LONGEST_DETAIL = 1_000;
    private static final int LONGEST_ADDRESS = 45;
    private static final int ONLY = 1;
    private static final int AT_ONCE = 1_000;
    private static final JsonMapper JSON = JsonMapper.builder()
            .disable(JsonWriteFeature.ESCAPE_FORWARD_SLASHES, JsonWriteFeature.WRITE_HEX_UPPER_CASE)
            .build();

    private final DSLContext db;

    AuditTrail(DSLContext db) {
        this.db = db;
    }

    /** Adds an entry. */
    public void add(AuditEntry entry) {
        db.transaction(transaction -> write(transaction.dsl(), entry));
    }

    /**
     * Begins a transaction that adds entries: others who add one wait until it ends. It must come before anything is read, because a transaction
     * cannot lock a row that was changed after its first read.
     *
     * @return the hash of the last entry
     */
    static String lock(DSLContext inside) {
        return inside.select(AUDIT_HEAD.SHA256)
                .from(AUDIT_HEAD)
                .where(AUDIT_HEAD.ID.eq(ONLY))
                .forUpdate()
                .fetchSingle(AUDIT_HEAD.SHA256);
    }

    /** Adds an entry to a transaction that began with {@link #lock}. */
    static void write(DSLContext inside, AuditEntry whole) {
        AuditEntry entry = fitting(whole);
        String previous = lock(inside);
        LocalDateTime at = Moments.stored(entry.at());
        String hash = hash(previous, Moments.read(at), entry);
        Long id = inside.insertInto(AUDIT_ENTRY)
                .set(AUDIT_ENTRY.AT, at)
                .set(AUDIT_ENTRY.WHO, entry.who())
                .set(AUDIT_ENTRY.ADDRESS, entry.address())
                .set(AUDIT_ENTRY.ACTION, entry.action())
                .set(AUDIT_ENTRY.SUBJECT, entry.subject())
                .set(AUDIT_ENTRY.DETAIL, entry.detail())
                .set(AUDIT_ENTRY.STATE_BEFORE, entry.before())
                .set(AUDIT_ENTRY.STATE_AFTER, entry.after())
                .set(AUDIT_ENTRY.PREVIOUS_SHA256, previous)
                .set(AUDIT_ENTRY.SHA256, hash)
                .returningResult(AUDIT_ENTRY.ID)
                .fetchSingle(AUDIT_ENTRY.ID);
        inside.update(AUDIT_HEAD)
                .set(AUDIT_HEAD.ENTRY, id)
                .set(AUDIT_HEAD.SHA256, hash)
                .where(AUDIT_HEAD.ID.eq(ONLY))
                .execute();
    }

    private static AuditEntry fitting(AuditEntry entry) {
        return new AuditEntry(
                entry.at(),
                cut(entry.who(), Records.LONGEST_WHO),
                entry.address() == null ? null : cut(entry.address(), LONGEST_ADDRESS),
                entry.action(),
                cut(entry.subject(), LONGEST_SUBJECT),
                cut(entry.detail(), LONGEST_DETAIL),
                entry.before() == null ? null : cut(entry.before(), LONGEST_STATE),
                entry.after() == null ? null : cut(entry.after(), LONGEST_STATE));
    }

    private static String cut(String text, int most) {
        return text.length() <= most ? text : text.substring(0, most);
    }

    private static String hash(String previous, Instant at, AuditEntry entry) {
        List<@Nullable String> parts = new ArrayList<>();
        parts.add(previous);
        parts.add(at.toString());
        parts.add(entry.who());
        parts.add(entry.address());
        parts.add(entry.action());
        parts.add(entry.subject());
        parts.add(entry.detail());
        parts.add(entry.before());
        parts.add(entry.after());
        try {
            byte[] bytes = JSON.writeValueAsString(parts).getBytes(StandardCharsets.UTF_8);
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /**
     * An entry as it is kept.
     *
     * @param previous the hash of the entry before; null for one from before entries were chained
     * @param hash null for such a one
     */
    public record StoredEntry(
            long id,
            AuditEntry entry,
            @Nullable String previous,
            @Nullable String hash) {}

    /**
     * What is looked for; null for everything.
     *
     * @param text anywhere in subject, detail or states
     * @param beforeId only entries with a smaller number
     */
    public record Search(
            @Nullable String who,
            @Nullable String action,
            @Nullable String subject,
            @Nullable String text,
            @Nullable Instant from,
            @Nullable Instant until,
            @Nullable Long beforeId) {

        /** The same for the entries before one. */
        public Search before(long id) {
            return new Search(who, action, subject, text, from, until, id);
        }
    }

    /** The newest first. */
    public List<StoredEntry> find(Search search, int most) {
        return db.selectFrom(AUDIT_ENTRY)
                .where(conditions(search))
                .orderBy(AUDIT_ENTRY.ID.desc())
                .limit(most)
                .fetch(AuditTrail::kept);
    }

    private static List<Condition> conditions(Search search) {
        List<Condition> all = new ArrayList<>();
        if (search.who() != null) {
            all.add(AUDIT_ENTRY.WHO.eq(search.who()));
        }
        if (search.action() != null) {
            all.add(AUDIT_ENTRY.ACTION.eq(search.action()));
        }
        if (search.subject() != null) {
            all.add(AUDIT_ENTRY.SUBJECT.eq(search.subject()));
        }
        if (search.text() != null) {
            all.add(AUDIT_ENTRY
                    .SUBJECT
                    .contains(search.text())
                    .or(AUDIT_ENTRY.DETAIL.contains(search.text()))
                    .or(AUDIT_ENTRY.STATE_BEFORE.contains(search.text()))
                    .or(AUDIT_ENTRY.STATE_AFTER.contains(search.text())));
        }
        if (search.from() != null) {
            all.add(AUDIT_ENTRY.AT.ge(Moments.stored(search.from())));
        }
        if (search.until() != null) {
            all.add(AUDIT_ENTRY.AT.lt(Moments.stored(search.until())));
        }
        if (search.beforeId() != null) {
            all.add(AUDIT_ENTRY.ID.lt(search.beforeId()));
        }
        return all;
    }

    /** The last states of every subject of one action, by subject; those that went away last are left out. */
    public Map<String, String> states(String action) {
        Map<String, String> states = new LinkedHashMap<>();
        var newest = DSL.select(DSL.max(AUDIT_ENTRY.ID))
                .from(AUDIT_ENTRY)
                .where(AUDIT_ENTRY.ACTION.eq(action))
                .groupBy(AUDIT_ENTRY.SUBJECT);
        db.select(AUDIT_ENTRY.SUBJECT, AUDIT_ENTRY.STATE_AFTER)
                .from(AUDIT_ENTRY)
                .where(AUDIT_ENTRY.ID.in(newest))
                .and(AUDIT_ENTRY.STATE_AFTER.isNotNull())
                .forEach(row -> states.put(row.value1(), row.value2()));
        return states;
    }

    /** The last entry. */
    public record Head(long entry, String hash) {}

    /** The last entry that was added; number 0 when there is none. */
    public Head head() {
        return db.select(AUDIT_HEAD.ENTRY, AUDIT_HEAD.SHA256)
                .from(AUDIT_HEAD)
                .where(AUDIT_HEAD.ID.eq(ONLY))
                .fetchSingle(row -> new Head(row.value1(), row.value2()));
    }

    /**
     * Whether the trail is whole.
     *
     * @param entries how many were looked at
     * @param trouble what does not fit, as a sentence; null when everything does
     */
    public record Check(long entries, Head head, @Nullable String trouble) {}

    /**
     * Looks at every entry.
     *
     * @param noted an entry whose hash somebody noted elsewhere; null for none
     */
    public Check check(@Nullable Head noted) {
        Head head = head();
        long looked = 0;
        long id = 0;
        String previous = null;
        boolean seen = noted == null;
        List<StoredEntry> some = next(id, head);
        while (!some.isEmpty()) {
            for (StoredEntry kept : some) {
                String trouble = trouble(kept, previous);
                if (trouble != null) {
                    return new Check(looked, head, trouble);
                }
                if (noted != null && noted.entry() == kept.id()) {
                    seen = noted.hash().equals(kept.hash());
                }
                looked++;
                id = kept.id();
                previous = kept.hash();
            }
            some = next(id, head);
        }
        boolean whole = head.entry() == id && (previous == null || previous.equals(head.hash()));
        String trouble = !whole
                ? "The last entries are missing: the last one was " + head.entry() + ", and " + id
                        + " is the last that is there."
                : seen ? null : "The noted entry is not there, or its hash is another one.";
        return new Check(looked, head, trouble);
    }

    private List<StoredEntry> next(long after, Head head) {
        return db.selectFrom(AUDIT_ENTRY)
                .where(AUDIT_ENTRY.ID.gt(after))
                .and(AUDIT_ENTRY.ID.le(head.entry()))
                .orderBy(AUDIT_ENTRY.ID)
                .limit(AT_ONCE)
                .fetch(AuditTrail::kept);
    }

    private static @Nullable String trouble(StoredEntry kept, @Nullable String previous) {
        if (kept.hash() == null || kept.previous() == null) {
            return previous == null ? null : "The entry " + kept.id() + " was put in without its hash.";
        }
        if (!hash(kept.previous(), kept.entry().at(), kept.entry()).equals(kept.hash())) {
            return "The entry " + kept.id() + " was altered.";
        }
        String expected = previous == null ? "0".repeat(kept.hash().length()) : previous;
        return expected.equals(kept.previous())
                ? null
                : "Entries before " + kept.id() + " are missing, or were altered.";
    }

    /**
     * True when the user of this connection can change or remove entries by the database's grants, so that only the chain tells of it.
     */
    public boolean canBeRewritten() {
        try {
            // matches no row, so that only the grant is asked about
            db.update(AUDIT_ENTRY)
                    .set(AUDIT_ENTRY.DETAIL, AUDIT_ENTRY.DETAIL)
                    .where(AUDIT_ENTRY.ID.lt(0L))
                    .execute();
            return true;
        } catch (DataAccessException e) {
            return false;
        }
    }

    private static StoredEntry kept(Record row) {
        return new StoredEntry(
                row.get(AUDIT_ENTRY.ID),
                new AuditEntry(
                        Moments.read(row.get(AUDIT_ENTRY.AT)),
                        row.get(AUDIT_ENTRY.WHO),
                        row.get(AUDIT_ENTRY.ADDRESS),
                        row.get(AUDIT_ENTRY.ACTION),
                        row.get(AUDIT_ENTRY.SUBJECT),
                        row.get(AUDIT_ENTRY.DETAIL),
                        row.get(AUDIT_ENTRY.STATE_BEFORE),
                        row.get(AUDIT_ENTRY.STATE_AFTER)),
                row.get(AUDIT_ENTRY.PREVIOUS_SHA256),
                row.get(AUDIT_ENTRY.SHA256));
    }
}
