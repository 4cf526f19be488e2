package tidybridge.records;

import static tidybridge.records.generated.Tables.ACCESS_ROLE;
import static tidybridge.records.generated.Tables.CLIENT_APPLICATION;
import static tidybridge.records.generated.Tables.CLIENT_CREDENTIAL;
import static tidybridge.records.generated.Tables.CLIENT_ROLE;
import static tidybridge.records.generated.Tables.PERSON;
import static tidybridge.records.generated.Tables.PERSON_ROLE;
import static tidybridge.records.generated.Tables.REVOKED_TOKEN;
import static tidybridge.records.generated.Tables.SESSION;
import static tidybridge.records.generated.Tables.SIGNING_KEY;
import static tidybridge.records.generated.Tables.SIGN_IN_CODE;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.ToIntFunction;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Query;
import org.jooq.TableField;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Quota;
import tidybridge.core.access.Role;

/**
 * Who may what: roles, people, client applications, sessions. Thread-safe.
 *
 * <p>Every change is one transaction that raises a number, so that all services over the store see that something changed by reading one
 * row, and that writes down who changed what.
 */
public final class AccessRecords {

    /** Of one person; a script that signs in each minute must not make everything larger for everybody. */
    public static final int MOST_SESSIONS = 50;

    private final DSLContext db;
    private final SignInCodes codes;

    AccessRecords(DSLContext db) {
        this.db = db;
        this.codes = new SignInCodes(db);
    }

    /** The number of the last change. */
    public long number() {
        return AccessRows.number(db);
    }

    /** Everything, as one consistent view. */
    public AccessState read(Instant now) {
        return db.transactionResult(transaction -> AccessRows.read(transaction.dsl(), now));
    }

    /** Makes a role, or changes it. */
    public void put(StoredRole stored, AuditEntry entry) {
        change(entry, inside -> put(inside, stored, entry.at()));
    }

    private static int put(DSLContext inside, StoredRole stored, Instant at) {
        Role role = stored.role();
        String holds = String.join("\n", role.holds());
        return inside.insertInto(ACCESS_ROLE)
                .set(ACCESS_ROLE.NAME, role.name())
                .set(ACCESS_ROLE.ABOUT, role.about())
                .set(ACCESS_ROLE.WORKSPACE, stored.workspace())
                .set(ACCESS_ROLE.HOLDS, holds)
                .set(ACCESS_ROLE.CHANGED_AT, Moments.stored(at))
                .onDuplicateKeyUpdate()
                .set(ACCESS_ROLE.ABOUT, role.about())
                .set(ACCESS_ROLE.WORKSPACE, stored.workspace())
                .set(ACCESS_ROLE.HOLDS, holds)
                .set(ACCESS_ROLE.CHANGED_AT, Moments.stored(at))
                .execute();
    }

    /** Removes a role, and takes it from everybody who has it; false when there is none. */
    public boolean removeRole(String name, AuditEntry entry) {
        return change(entry, inside -> removeRole(inside, name));
    }

    private static int removeRole(DSLContext inside, String name) {
        inside.deleteFrom(PERSON_ROLE).where(PERSON_ROLE.ROLE.eq(name)).execute();
        inside.deleteFrom(CLIENT_ROLE).where(CLIENT_ROLE.ROLE.eq(name)).execute();
        return inside.deleteFrom(ACCESS_ROLE).where(ACCESS_ROLE.NAME.eq(name)).execute();
    }

    /** Makes the roles that a workspace's text defines exactly these: changed ones are changed, missing ones are removed from everybody. */
    public void takeRoles(String workspace, List<Role> put, List<String> removed, AuditEntry entry) {
        change(entry, inside -> {
            put.forEach(role -> put(inside, new StoredRole(role, workspace), entry.at()));
            removed.forEach(name -> removeRole(inside, name));
            return put.size() + removed.size();
        });
    }

    /** Makes a person, or changes names, roles and whether they may sign in; what they sign in with stays. */
    public void put(Person person, AuditEntry entry) {
        change(entry, inside -> {
            inside.insertInto(PERSON)
                    .set(PERSON.NAME, person.name())
                    .set(PERSON.FULL_NAME, person.fullName())
                    .set(PERSON.FACTOR_STEP, 0L)
                    .set(PERSON.DISABLED, person.disabled())
                    .set(PERSON.CREATED_AT, Moments.stored(entry.at()))
                    .set(PERSON.PROVIDER, person.provider())
                    .set(PERSON.SUBJECT, person.subject())
                    .set(PERSON.TEAM, person.team())
                    .onDuplicateKeyUpdate()
                    .set(PERSON.FULL_NAME, person.fullName())
                    .set(PERSON.DISABLED, person.disabled())
                    .execute();
            inside.deleteFrom(PERSON_ROLE)
                    .where(PERSON_ROLE.PERSON.eq(person.name()))
                    .execute();
            for (String role : person.roles()) {
                inside.insertInto(PERSON_ROLE)
                        .set(PERSON_ROLE.PERSON, person.name())
                        .set(PERSON_ROLE.ROLE, role)
                        .execute();
            }
            if (person.disabled()) {
                inside.deleteFrom(SESSION)
                        .where(SESSION.PERSON.eq(person.name()))
                        .execute();
            }
            return 1;
        });
    }

    /** Removes a person with sessions and codes; false when there is none. */
    public boolean removePerson(String name, AuditEntry entry) {
        return change(
                entry,
                inside -> inside.deleteFrom(PERSON).where(PERSON.NAME.eq(name)).execute());
    }

    /** Gives a person a password, and ends what was opened with another. */
    public void password(String person, String hash, @Nullable String keptSession, AuditEntry entry) {
        change(entry, inside -> {
            endOthers(inside, person, keptSession);
            inside.deleteFrom(SIGN_IN_CODE)
                    .where(SIGN_IN_CODE.PERSON.eq(person))
                    .execute();
            return set(inside, person, PERSON.PASSWORD_HASH, hash);
        });
    }

    /**
     * Gives a person a second factor, or takes it away.
     *
     * @param secret null for none
     */
    public void factor(String person, @Nullable String secret, @Nullable String keptSession, AuditEntry entry) {
        change(entry, inside -> {
            endOthers(inside, person, keptSession);
            return set(inside, person, PERSON.FACTOR_SECRET, secret);
        });
    }

    private static void endOthers(DSLContext inside, String person, @Nullable String kept) {
        inside.deleteFrom(SESSION)
                .where(SESSION.PERSON.eq(person))
                .and(SESSION.ID.ne(kept == null ? "" : kept))
                .execute();
    }

    private static <T> int set(DSLContext inside, String person, TableField<?, T> field, @Nullable T value) {
        return inside.update(PERSON)
                .set(field, value)
                .where(PERSON.NAME.eq(person))
                .execute();
    }

    /** Uses up the code of a time step; false when that code, or a later one, was used before. */
    public boolean useFactor(String person, long step) {
        return db.update(PERSON)
                        .set(PERSON.FACTOR_STEP, step)
                        .where(PERSON.NAME.eq(person))
                        .and(PERSON.FACTOR_STEP.lt(step))
                        .execute()
                == 1;
    }

    /** Makes a client application, or changes everything but its credentials. */
    public void put(ClientApplication client, AuditEntry entry) {
        Quota quota = client.quota();
        Map<Field<?>, @Nullable Object> row = new HashMap<>();
        row.put(CLIENT_APPLICATION.ABOUT, client.about());
        row.put(CLIENT_APPLICATION.OWNER, client.owner());
        row.put(CLIENT_APPLICATION.CONTACT, client.contact());
        row.put(CLIENT_APPLICATION.DISABLED, client.disabled());
        row.put(CLIENT_APPLICATION.ADDRESSES, String.join("\n", client.addresses()));
        row.put(CLIENT_APPLICATION.SUBJECTS, String.join("\n", client.subjects()));
        row.put(CLIENT_APPLICATION.QUOTA_CALLS, quota == null ? null : quota.calls());
        row.put(
                CLIENT_APPLICATION.QUOTA_SECONDS,
                quota == null ? null : (int) quota.per().toSeconds());
        row.put(CLIENT_APPLICATION.QUOTA_CONCURRENT, quota == null ? null : quota.concurrent());
        change(entry, inside -> {
            inside.insertInto(CLIENT_APPLICATION)
                    .set(row)
                    .set(CLIENT_APPLICATION.NAME, client.name())
                    .set(CLIENT_APPLICATION.CREATED_AT, Moments.stored(entry.at()))
                    .onDuplicateKeyUpdate()
                    .set(row)
                    .execute();
            inside.deleteFrom(CLIENT_ROLE)
                    .where(CLIENT_ROLE.CLIENT.eq(client.name()))
                    .execute();
            for (String role : client.roles()) {
                inside.insertInto(CLIENT_ROLE)
                        .set(CLIENT_ROLE.CLIENT, client.name())
                        .set(CLIENT_ROLE.ROLE, role)
                        .execute();
            }
            return 1;
        });
    }

    /** Removes a client application with its credentials; false when there is none. */
    public boolean removeClient(String name, AuditEntry entry) {
        return change(
                entry,
                inside -> inside.deleteFrom(CLIENT_APPLICATION)
                        .where(CLIENT_APPLICATION.NAME.eq(name))
                        .execute());
    }

    /** Adds a credential; false when the client has one of its name already. */
    public boolean add(String client, ClientApplication.Credential credential, AuditEntry entry) {
        return change(
                entry,
                inside -> inside.insertInto(CLIENT_CREDENTIAL)
                        .set(CLIENT_CREDENTIAL.ID, credential.id())
                        .set(CLIENT_CREDENTIAL.CLIENT, client)
                        .set(CLIENT_CREDENTIAL.NAME, credential.name())
                        .set(CLIENT_CREDENTIAL.SECRET_SHA256, credential.secretHash())
                        .set(CLIENT_CREDENTIAL.CREATED_AT, Moments.stored(credential.createdAt()))
                        .set(CLIENT_CREDENTIAL.ENDS_AT, Moments.storedOptional(credential.endsAt()))
                        .onDuplicateKeyIgnore()
                        .execute());
    }

    /** Revokes a credential; false when the client has none of that name. */
    public boolean revoke(String client, String name, AuditEntry entry) {
        return change(
                entry,
                inside -> inside.deleteFrom(CLIENT_CREDENTIAL)
                        .where(CLIENT_CREDENTIAL.CLIENT.eq(client))
                        .and(CLIENT_CREDENTIAL.NAME.eq(name))
                        .execute());
    }

    /** Opens a session, and forgets those that have ended, and the oldest of somebody who has too many. */
    public void open(Session session, AuditEntry entry) {
        change(entry, inside -> {
            inside.deleteFrom(SESSION)
                    .where(SESSION.ENDS_AT.le(Moments.stored(session.openedAt())))
                    .execute();
            List<String> own = inside.select(SESSION.ID)
                    .from(SESSION)
                    .where(session.person() == null ? SESSION.PERSON.isNull() : SESSION.PERSON.eq(session.person()))
                    .orderBy(SESSION.OPENED_AT.desc(), SESSION.ID)
                    .fetch(SESSION.ID);
            if (own.size() >= MOST_SESSIONS) {
                inside.deleteFrom(SESSION)
                        .where(SESSION.ID.in(own.subList(MOST_SESSIONS - 1, own.size())))
                        .execute();
            }
            return inside.insertInto(SESSION)
                    .set(SESSION.ID, session.id())
                    .set(SESSION.PERSON, session.person())
                    .set(
                            SESSION.KIND,
                            session.kind().name().toLowerCase(Locale.ROOT).replace('_', '-'))
                    .set(SESSION.SECRET_SHA256, session.secretHash())
                    .set(SESSION.OPENED_AT, Moments.stored(session.openedAt()))
                    .set(SESSION.ENDS_AT, Moments.stored(session.endsAt()))
                    .set(SESSION.USED_AT, Moments.stored(session.usedAt()))
                    .set(SESSION.ADDRESS, session.address())
                    .execute();
        });
    }

    /** Ends a session; false when there is none. */
    public boolean end(String session, AuditEntry entry) {
        return change(
                entry,
                inside ->
                        inside.deleteFrom(SESSION).where(SESSION.ID.eq(session)).execute());
    }

    /**
     * Adds a key for signing unless another was added meanwhile, and forgets old ones.
     *
     * @param since another that was made after it makes this one unnecessary
     * @param forgotten those made before are removed
     */
    public void addSigningKey(SigningKey key, Instant since, Instant forgotten, AuditEntry entry) {
        change(entry, inside -> {
            boolean there = inside.fetchExists(
                    inside.selectFrom(SIGNING_KEY).where(SIGNING_KEY.MADE_AT.gt(Moments.stored(since))));
            if (there) {
                return 0;
            }
            inside.deleteFrom(SIGNING_KEY)
                    .where(SIGNING_KEY.MADE_AT.lt(Moments.stored(forgotten)))
                    .execute();
            return inside.insertInto(SIGNING_KEY)
                    .set(SIGNING_KEY.ID, key.id())
                    .set(SIGNING_KEY.JWK, key.jwk())
                    .set(SIGNING_KEY.MADE_AT, Moments.stored(key.madeAt()))
                    .execute();
        });
    }

    /**
     * Revokes a token before its time.
     *
     * @param most how many of one application's may be kept at a time
     * @return false when that many are kept already
     */
    public boolean revokeToken(String id, String client, Instant endsAt, int most, AuditEntry entry) {
        return change(entry, inside -> {
            inside.deleteFrom(REVOKED_TOKEN)
                    .where(REVOKED_TOKEN.ENDS_AT.le(Moments.stored(entry.at())))
                    .execute();
            if (inside.fetchCount(REVOKED_TOKEN, REVOKED_TOKEN.CLIENT.eq(client)) >= most) {
                return 0;
            }
            inside.insertInto(REVOKED_TOKEN)
                    .set(REVOKED_TOKEN.ID, id)
                    .set(REVOKED_TOKEN.CLIENT, client)
                    .set(REVOKED_TOKEN.ENDS_AT, Moments.stored(endsAt))
                    .onDuplicateKeyIgnore()
                    .execute();
            return 1;
        });
    }

    /** The codes of links that sign somebody in. */
    public SignInCodes codes() {
        return codes;
    }

    /** Writes down when credentials and sessions were used last. This is no change. */
    public void used(Map<String, Instant> credentials, Map<String, Instant> sessions) {
        List<Query> updates = new ArrayList<>();
        credentials.forEach((id, at) -> updates.add(db.update(CLIENT_CREDENTIAL)
                .set(CLIENT_CREDENTIAL.USED_AT, Moments.stored(at))
                .where(CLIENT_CREDENTIAL.ID.eq(id))));
        sessions.forEach((id, at) -> updates.add(
                db.update(SESSION).set(SESSION.USED_AT, Moments.stored(at)).where(SESSION.ID.eq(id))));
        if (!updates.isEmpty()) {
            db.batch(updates).execute();
        }
    }

    /** Writes down something that changes nothing here, such as a refused sign-in. */
    public void note(AuditEntry entry) {
        new AuditTrail(db).add(entry);
    }

    private boolean change(AuditEntry entry, ToIntFunction<DSLContext> work) {
        return AccessChange.make(db, entry, work);
    }
}
