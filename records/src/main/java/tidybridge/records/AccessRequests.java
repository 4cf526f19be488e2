package tidybridge.records;

import static tidybridge.records.generated.Tables.ACCESS_REQUEST;
import static tidybridge.records.generated.Tables.CLIENT_APPLICATION;
import static tidybridge.records.generated.Tables.TEAM;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;

/** What people ask for: to become a team, or privileges. Thread-safe; every change is one transaction, and one follows the other. */
public final class AccessRequests {

    /** How many wishes to become a team may wait at once, of everybody. */
    public static final int MOST_TEAMS_WAITING = 200;

    /** How many requests of a team may wait at once. */
    public static final int MOST_WAITING = 20;

    /** How many wishes to become a team one address may have within a day. */
    public static final int MOST_TEAMS_A_DAY = 5;

    /** How many requests a team may make within a day. */
    public static final int MOST_A_DAY = 50;

    /** How long a wish to become a team waits for an answer. */
    public static final Duration WAITS = Duration.ofDays(30);

    /** How many a list shows. */
    public static final int MOST_LISTED = 200;

    /** How many are kept that were decided; what happened to the others is in the audit trail. */
    private static final int MOST_DECIDED = 10_000;

    private static final Duration DAY = Duration.ofDays(1);

    private final DSLContext db;

    AccessRequests(DSLContext db) {
        this.db = db;
    }

    /** Those that wait, the oldest first, then the newest ones that were decided. */
    public List<AccessRequest> listed() {
        return listed(ACCESS_REQUEST.ID.isNotNull());
    }

    /** The same of one team. */
    public List<AccessRequest> ofTeam(String team) {
        return listed(ACCESS_REQUEST.TEAM.eq(team));
    }

    private List<AccessRequest> listed(Condition which) {
        Condition waits = ACCESS_REQUEST.STATE.eq(AccessRequest.State.WAITING.label());
        List<AccessRequest> all = new ArrayList<>(db.selectFrom(ACCESS_REQUEST)
                .where(which)
                .and(waits)
                .orderBy(ACCESS_REQUEST.ID)
                .limit(MOST_LISTED)
                .fetch(AccessRequests::request));
        all.addAll(db.selectFrom(ACCESS_REQUEST)
                .where(which)
                .and(waits.not())
                .orderBy(ACCESS_REQUEST.ID.desc())
                .limit(MOST_LISTED)
                .fetch(AccessRequests::request));
        return all;
    }

    /** One by its number. */
    public Optional<AccessRequest> find(long id) {
        return db.selectFrom(ACCESS_REQUEST).where(ACCESS_REQUEST.ID.eq(id)).fetchOptional(AccessRequests::request);
    }

    /** What became of a wish to ask. */
    public sealed interface Added {
        /** It is kept, under its number. */
        record Kept(AccessRequest request) implements Added {}

        /** So many wait already that this one cannot. */
        record TooManyWaiting() implements Added {}

        /** It was asked so often within a day that this one cannot be. */
        record TooOften() implements Added {}
    }

    /** Keeps one that waits. */
    public Added add(AccessRequest request, AuditEntry entry) {
        return db.transactionResult(transaction -> {
            DSLContext inside = transaction.dsl();
            AuditTrail.lock(inside);
            boolean team = request.kind() == AccessRequest.Kind.TEAM;
            Condition kind = ACCESS_REQUEST.KIND.eq(request.kind().label());
            Condition lately =
                    ACCESS_REQUEST.ASKED_AT.gt(Moments.stored(request.askedAt().minus(DAY)));
            Condition alike = kind.and(
                    team ? ACCESS_REQUEST.ADDRESS.eq(request.address()) : ACCESS_REQUEST.TEAM.eq(request.team()));
            if (inside.fetchCount(ACCESS_REQUEST, alike.and(lately)) >= (team ? MOST_TEAMS_A_DAY : MOST_A_DAY)) {
                return new Added.TooOften();
            }
            forgetOld(inside, request.askedAt());
            Condition waits = ACCESS_REQUEST.STATE.eq(AccessRequest.State.WAITING.label());
            int waiting = inside.fetchCount(ACCESS_REQUEST, waits.and(team ? kind : alike));
            if (waiting >= (team ? MOST_TEAMS_WAITING : MOST_WAITING)) {
                return new Added.TooManyWaiting();
            }
            Long id = inside.insertInto(ACCESS_REQUEST)
                    .set(ACCESS_REQUEST.KIND, request.kind().label())
                    .set(ACCESS_REQUEST.TEAM, request.team())
                    .set(ACCESS_REQUEST.TITLE, request.title())
                    .set(ACCESS_REQUEST.CLIENT, request.client())
                    .set(ACCESS_REQUEST.MODULE, request.module())
                    .set(ACCESS_REQUEST.PRIVILEGES, String.join("\n", request.privileges()))
                    .set(ACCESS_REQUEST.REASON, request.reason())
                    .set(ACCESS_REQUEST.ASKED_BY, request.askedBy())
                    .set(ACCESS_REQUEST.CONTACT, request.contact())
                    .set(ACCESS_REQUEST.ADDRESS, request.address())
                    .set(ACCESS_REQUEST.ASKED_AT, Moments.stored(request.askedAt()))
                    .set(ACCESS_REQUEST.STATE, AccessRequest.State.WAITING.label())
                    .returning(ACCESS_REQUEST.ID)
                    .fetchSingle(ACCESS_REQUEST.ID);
            AuditTrail.write(inside, entry);
            return new Added.Kept(request.numbered(id));
        });
    }

    /** What was decided long ago, and wishes of strangers that nobody answered. */
    private static void forgetOld(DSLContext inside, Instant now) {
        inside.deleteFrom(ACCESS_REQUEST)
                .where(ACCESS_REQUEST.KIND.eq(AccessRequest.Kind.TEAM.label()))
                .and(ACCESS_REQUEST.STATE.eq(AccessRequest.State.WAITING.label()))
                .and(ACCESS_REQUEST.ASKED_AT.lt(Moments.stored(now.minus(WAITS))))
                .execute();
        List<Long> oldest = inside.select(ACCESS_REQUEST.ID)
                .from(ACCESS_REQUEST)
                .where(ACCESS_REQUEST.STATE.ne(AccessRequest.State.WAITING.label()))
                .orderBy(ACCESS_REQUEST.ID.desc())
                .limit(MOST_DECIDED, 1)
                .fetch(ACCESS_REQUEST.ID);
        if (!oldest.isEmpty()) {
            inside.deleteFrom(ACCESS_REQUEST)
                    .where(ACCESS_REQUEST.ID.le(oldest.getFirst()))
                    .and(ACCESS_REQUEST.STATE.ne(AccessRequest.State.WAITING.label()))
                    .execute();
        }
    }

    /**
     * What was decided.
     *
     * @param words what whoever asked is told; null for nothing
     * @param endsAt until when it is allowed; null for always
     */
    public record Decision(
            String by, @Nullable String words, @Nullable Instant endsAt) {}

    /** What became of an answer. */
    public enum Answered {
        DONE,
        /** It does not wait any more, or the application that it is for is gone. */
        CLOSED,
        /** There is a team of that name. */
        NAME_TAKEN
    }

    /**
     * Gives an application what was asked for.
     *
     * @param privileges those of them that are given
     */
    public Answered allow(AccessRequest request, List<String> privileges, Decision decision, AuditEntry entry) {
        String client = String.valueOf(request.client());
        boolean allowed = AccessChange.make(db, entry, inside -> {
            boolean there = inside.fetchExists(inside.selectFrom(CLIENT_APPLICATION)
                    .where(CLIENT_APPLICATION.NAME.eq(client))
                    .and(CLIENT_APPLICATION.TEAM.eq(request.team())));
            if (!there || close(inside, request, AccessRequest.State.ALLOWED, decision, request.team(), entry) == 0) {
                return 0;
            }
            TeamRecords.give(
                    inside,
                    client,
                    privileges.stream()
                            .map(privilege -> new GivenPrivilege(
                                    privilege, decision.by(), entry.at(), decision.endsAt(), request.id()))
                            .toList());
            return inside.update(ACCESS_REQUEST)
                    .set(ACCESS_REQUEST.PRIVILEGES, String.join("\n", privileges))
                    .where(ACCESS_REQUEST.ID.eq(request.id()))
                    .execute();
        });
        return allowed ? Answered.DONE : Answered.CLOSED;
    }

    /**
     * Makes the team that was asked for.
     *
     * @param invitation the hash of a code with which the first of its people joins
     */
    public Answered allowTeam(
            AccessRequest request,
            Team team,
            String invitation,
            Instant invitationEndsAt,
            Decision decision,
            AuditEntry entry) {
        return db.transactionResult(transaction -> {
            DSLContext inside = transaction.dsl();
            AccessChange.begin(inside);
            if (inside.fetchExists(inside.selectFrom(TEAM).where(TEAM.NAME.eq(team.name())))) {
                return Answered.NAME_TAKEN;
            }
            if (close(inside, request, AccessRequest.State.ALLOWED, decision, team.name(), entry) == 0) {
                return Answered.CLOSED;
            }
            TeamRecords.add(inside, team);
            TeamRecords.invite(inside, invitation, team.name(), invitationEndsAt, entry.at());
            AuditTrail.write(inside, entry);
            return Answered.DONE;
        });
    }

    /** Refuses what was asked, for whoever answers. */
    public Answered refuse(AccessRequest request, Decision decision, AuditEntry entry) {
        return close(request, AccessRequest.State.REFUSED, decision, entry);
    }

    /** Takes back what was asked, for whoever asked. */
    public Answered withdraw(AccessRequest request, Decision decision, AuditEntry entry) {
        return close(request, AccessRequest.State.WITHDRAWN, decision, entry);
    }

    private Answered close(AccessRequest request, AccessRequest.State state, Decision decision, AuditEntry entry) {
        return db.transactionResult(transaction -> {
            DSLContext inside = transaction.dsl();
            AuditTrail.lock(inside);
            if (close(inside, request, state, decision, request.team(), entry) == 0) {
                return Answered.CLOSED;
            }
            AuditTrail.write(inside, entry);
            return Answered.DONE;
        });
    }

    private static int close(
            DSLContext inside,
            AccessRequest request,
            AccessRequest.State state,
            Decision decision,
            @Nullable String team,
            AuditEntry entry) {
        return inside.update(ACCESS_REQUEST)
                .set(ACCESS_REQUEST.STATE, state.label())
                .set(ACCESS_REQUEST.TEAM, team)
                .set(ACCESS_REQUEST.DECIDED_BY, decision.by())
                .set(ACCESS_REQUEST.DECIDED_AT, Moments.stored(entry.at()))
                .set(ACCESS_REQUEST.WORDS, decision.words())
                .set(ACCESS_REQUEST.ENDS_AT, Moments.storedOptional(decision.endsAt()))
                .where(ACCESS_REQUEST.ID.eq(request.id()))
                .and(ACCESS_REQUEST.STATE.eq(AccessRequest.State.WAITING.label()))
                .execute();
    }

    private static AccessRequest request(Record row) {
        String privileges = row.get(ACCESS_REQUEST.PRIVILEGES);
        return new AccessRequest(
                row.get(ACCESS_REQUEST.ID),
                AccessRequest.Kind.valueOf(row.get(ACCESS_REQUEST.KIND).toUpperCase(Locale.ROOT)),
                row.get(ACCESS_REQUEST.TEAM),
                row.get(ACCESS_REQUEST.TITLE),
                row.get(ACCESS_REQUEST.CLIENT),
                row.get(ACCESS_REQUEST.MODULE),
                privileges.lines().toList(),
                row.get(ACCESS_REQUEST.REASON),
                row.get(ACCESS_REQUEST.ASKED_BY),
                row.get(ACCESS_REQUEST.CONTACT),
                row.get(ACCESS_REQUEST.ADDRESS),
                Moments.read(row.get(ACCESS_REQUEST.ASKED_AT)),
                AccessRequest.State.valueOf(row.get(ACCESS_REQUEST.STATE).toUpperCase(Locale.ROOT)),
                row.get(ACCESS_REQUEST.DECIDED_BY),
                Moments.readOptional(row.get(ACCESS_REQUEST.DECIDED_AT)),
                row.get(ACCESS_REQUEST.WORDS),
                Moments.readOptional(row.get(ACCESS_REQUEST.ENDS_AT)));
    }
}
