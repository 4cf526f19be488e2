package tidybridge.records;

import static tidybridge.records.generated.Tables.CLIENT_APPLICATION;
import static tidybridge.records.generated.Tables.CLIENT_PRIVILEGE;
import static tidybridge.records.generated.Tables.PERSON;
import static tidybridge.records.generated.Tables.TEAM;
import static tidybridge.records.generated.Tables.TEAM_INVITATION;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;

/** Client teams, who belongs to them, and what was given to their applications. Thread-safe; every change is one transaction. */
public final class TeamRecords {

    private final DSLContext db;

    TeamRecords(DSLContext db) {
        this.db = db;
    }

    /** Makes a team; false when there is one of its name. */
    public boolean add(Team team, AuditEntry entry) {
        return AccessChange.make(db, entry, inside -> add(inside, team));
    }

    static int add(DSLContext inside, Team team) {
        return inside.insertInto(TEAM)
                .set(TEAM.NAME, team.name())
                .set(TEAM.TITLE, team.title())
                .set(TEAM.CONTACT, team.contact())
                .set(TEAM.CREATED_AT, Moments.stored(team.createdAt()))
                .onDuplicateKeyIgnore()
                .execute();
    }

    /** Changes where a team is told something; its applications have its contact too. */
    public boolean tellAt(Team team, AuditEntry entry) {
        return AccessChange.make(db, entry, inside -> {
            inside.update(CLIENT_APPLICATION)
                    .set(CLIENT_APPLICATION.CONTACT, team.contact())
                    .where(CLIENT_APPLICATION.TEAM.eq(team.name()))
                    .execute();
            inside.update(TEAM)
                    .set(TEAM.CONTACT, team.contact())
                    .set(TEAM.WEBHOOK, team.webhook())
                    .set(TEAM.WEBHOOK_KEY, team.webhookKey())
                    .where(TEAM.NAME.eq(team.name()))
                    .execute();
            return 1;
        });
    }

    /** Removes a team with its people, its applications and their credentials; false when there is none. */
    public boolean remove(String team, AuditEntry entry) {
        return AccessChange.make(
                db,
                entry,
                inside -> inside.deleteFrom(TEAM).where(TEAM.NAME.eq(team)).execute());
    }

    /** Keeps the code of a link with which somebody becomes one of a team's people; forgets those that have ended. */
    public void invite(String hash, String team, Instant endsAt, AuditEntry entry) {
        db.transaction(transaction -> {
            AuditTrail.lock(transaction.dsl());
            invite(transaction.dsl(), hash, team, endsAt, entry.at());
            AuditTrail.write(transaction.dsl(), entry);
        });
    }

    static void invite(DSLContext inside, String hash, String team, Instant endsAt, Instant now) {
        inside.deleteFrom(TEAM_INVITATION)
                .where(TEAM_INVITATION.ENDS_AT.le(Moments.stored(now)))
                .execute();
        inside.insertInto(TEAM_INVITATION)
                .set(TEAM_INVITATION.SHA256, hash)
                .set(TEAM_INVITATION.TEAM, team)
                .set(TEAM_INVITATION.ENDS_AT, Moments.stored(endsAt))
                .execute();
    }

    /** The team that a link's code leads into; empty for one that is unknown, used or too old. */
    public Optional<String> invitedInto(String hash, Instant now) {
        return db.select(TEAM_INVITATION.TEAM)
                .from(TEAM_INVITATION)
                .where(TEAM_INVITATION.SHA256.eq(hash))
                .and(TEAM_INVITATION.ENDS_AT.gt(Moments.stored(now)))
                .fetchOptional(TEAM_INVITATION.TEAM);
    }

    /** How many links of a team can be used still. */
    public int invitations(String team, Instant now) {
        return db.fetchCount(
                TEAM_INVITATION, TEAM_INVITATION.TEAM.eq(team).and(TEAM_INVITATION.ENDS_AT.gt(Moments.stored(now))));
    }

    /**
     * Makes somebody one of a team's people, by a link's code, which is used up.
     *
     * @return false when the code does not lead into the team any more, or somebody has the name; nothing is changed then
     */
    public boolean join(String hash, String team, Person person, AuditEntry entry) {
        return AccessChange.make(db, entry, inside -> {
            boolean taken = inside.fetchExists(inside.selectFrom(PERSON).where(PERSON.NAME.eq(person.name())));
            boolean used = !taken
                    && inside.deleteFrom(TEAM_INVITATION)
                                    .where(TEAM_INVITATION.SHA256.eq(hash))
                                    .and(TEAM_INVITATION.TEAM.eq(team))
                                    .and(TEAM_INVITATION.ENDS_AT.gt(Moments.stored(entry.at())))
                                    .execute()
                            == 1;
            return used
                    ? inside.insertInto(PERSON)
                            .set(PERSON.NAME, person.name())
                            .set(PERSON.FULL_NAME, person.fullName())
                            .set(PERSON.PASSWORD_HASH, person.passwordHash())
                            .set(PERSON.FACTOR_STEP, 0L)
                            .set(PERSON.DISABLED, false)
                            .set(PERSON.CREATED_AT, Moments.stored(entry.at()))
                            .set(PERSON.TEAM, team)
                            .execute()
                    : 0;
        });
    }

    /** Makes an application of a team's own, which may nothing yet; false when there is one of its name. */
    public boolean addClient(String name, String about, Team team, AuditEntry entry) {
        return AccessChange.make(
                db,
                entry,
                inside -> inside.insertInto(CLIENT_APPLICATION)
                        .set(CLIENT_APPLICATION.NAME, name)
                        .set(CLIENT_APPLICATION.ABOUT, about.isEmpty() ? null : about)
                        .set(CLIENT_APPLICATION.OWNER, team.title())
                        .set(CLIENT_APPLICATION.CONTACT, team.contact())
                        .set(CLIENT_APPLICATION.DISABLED, false)
                        .set(CLIENT_APPLICATION.TEAM, team.name())
                        .set(CLIENT_APPLICATION.CREATED_AT, Moments.stored(entry.at()))
                        .onDuplicateKeyIgnore()
                        .execute());
    }

    /** Gives an application privileges until a moment, in place of what was said of them before. */
    static void give(DSLContext inside, String client, List<GivenPrivilege> given) {
        for (GivenPrivilege one : given) {
            inside.insertInto(CLIENT_PRIVILEGE)
                    .set(CLIENT_PRIVILEGE.CLIENT, client)
                    .set(CLIENT_PRIVILEGE.PRIVILEGE, one.privilege())
                    .set(CLIENT_PRIVILEGE.GIVEN_BY, one.givenBy())
                    .set(CLIENT_PRIVILEGE.GIVEN_AT, Moments.stored(one.givenAt()))
                    .set(CLIENT_PRIVILEGE.ENDS_AT, Moments.storedOptional(one.endsAt()))
                    .set(CLIENT_PRIVILEGE.REQUEST_ID, one.request())
                    .onDuplicateKeyUpdate()
                    .set(CLIENT_PRIVILEGE.GIVEN_BY, one.givenBy())
                    .set(CLIENT_PRIVILEGE.GIVEN_AT, Moments.stored(one.givenAt()))
                    .set(CLIENT_PRIVILEGE.ENDS_AT, Moments.storedOptional(one.endsAt()))
                    .set(CLIENT_PRIVILEGE.REQUEST_ID, one.request())
                    .execute();
        }
    }

    /** Takes a privilege back from an application; false when it was not given. */
    public boolean takeBack(String client, String privilege, AuditEntry entry) {
        return AccessChange.make(
                db,
                entry,
                inside -> inside.deleteFrom(CLIENT_PRIVILEGE)
                        .where(CLIENT_PRIVILEGE.CLIENT.eq(client))
                        .and(CLIENT_PRIVILEGE.PRIVILEGE.eq(privilege))
                        .execute());
    }
}
