package tidybridge.records;

import static tidybridge.records.generated.Tables.ACCESS_NUMBER;
import static tidybridge.records.generated.Tables.ACCESS_ROLE;
import static tidybridge.records.generated.Tables.CLIENT_APPLICATION;
import static tidybridge.records.generated.Tables.CLIENT_CREDENTIAL;
import static tidybridge.records.generated.Tables.CLIENT_PRIVILEGE;
import static tidybridge.records.generated.Tables.CLIENT_ROLE;
import static tidybridge.records.generated.Tables.PERSON;
import static tidybridge.records.generated.Tables.PERSON_ROLE;
import static tidybridge.records.generated.Tables.REVOKED_TOKEN;
import static tidybridge.records.generated.Tables.SESSION;
import static tidybridge.records.generated.Tables.SIGNING_KEY;
import static tidybridge.records.generated.Tables.TEAM;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Quota;
import tidybridge.core.access.Role;

/** Reads the rows of access. */
final class AccessRows {

    /** The only row of the number. */
    static final int ONLY = 1;

    private AccessRows() {}

    /** The number of the last change. */
    static long number(DSLContext db) {
        Long number = db.select(ACCESS_NUMBER.NUMBER)
                .from(ACCESS_NUMBER)
                .where(ACCESS_NUMBER.ID.eq(ONLY))
                .fetchOne(ACCESS_NUMBER.NUMBER);
        return number == null ? 0 : number;
    }

    /** Everything; one consistent view inside of a transaction. */
    static AccessState read(DSLContext inside, Instant now) {
        Map<String, List<String>> ofPeople = inside.selectFrom(PERSON_ROLE)
                .orderBy(PERSON_ROLE.ROLE)
                .fetchGroups(PERSON_ROLE.PERSON, PERSON_ROLE.ROLE);
        Map<String, List<String>> ofClients = inside.selectFrom(CLIENT_ROLE)
                .orderBy(CLIENT_ROLE.ROLE)
                .fetchGroups(CLIENT_ROLE.CLIENT, CLIENT_ROLE.ROLE);
        Map<String, List<ClientApplication.Credential>> credentials = inside.selectFrom(CLIENT_CREDENTIAL)
                .orderBy(CLIENT_CREDENTIAL.CREATED_AT, CLIENT_CREDENTIAL.ID)
                .fetchGroups(CLIENT_CREDENTIAL.CLIENT, AccessRows::credential);
        Map<String, List<GivenPrivilege>> given = inside.selectFrom(CLIENT_PRIVILEGE)
                .orderBy(CLIENT_PRIVILEGE.PRIVILEGE)
                .fetchGroups(CLIENT_PRIVILEGE.CLIENT, AccessRows::given);
        return new AccessState(
                number(inside),
                inside.selectFrom(ACCESS_ROLE).orderBy(ACCESS_ROLE.NAME).fetch(AccessRows::role),
                inside.selectFrom(PERSON)
                        .orderBy(PERSON.NAME)
                        .fetch(row -> person(row, ofPeople.getOrDefault(row.get(PERSON.NAME), List.of()))),
                inside.selectFrom(CLIENT_APPLICATION)
                        .orderBy(CLIENT_APPLICATION.NAME)
                        .fetch(row -> client(
                                row,
                                ofClients.getOrDefault(row.get(CLIENT_APPLICATION.NAME), List.of()),
                                given.getOrDefault(row.get(CLIENT_APPLICATION.NAME), List.of()),
                                credentials.getOrDefault(row.get(CLIENT_APPLICATION.NAME), List.of()))),
                inside.selectFrom(TEAM).orderBy(TEAM.NAME).fetch(AccessRows::team),
                inside.selectFrom(SESSION)
                        .where(SESSION.ENDS_AT.gt(Moments.stored(now)))
                        .orderBy(SESSION.OPENED_AT)
                        .fetch(AccessRows::session),
                inside.selectFrom(SIGNING_KEY)
                        .orderBy(SIGNING_KEY.MADE_AT.desc(), SIGNING_KEY.ID)
                        .fetch(row -> new SigningKey(
                                row.get(SIGNING_KEY.ID),
                                row.get(SIGNING_KEY.JWK),
                                Moments.read(row.get(SIGNING_KEY.MADE_AT)))),
                inside.selectFrom(REVOKED_TOKEN)
                        .where(REVOKED_TOKEN.ENDS_AT.gt(Moments.stored(now)))
                        .fetchSet(REVOKED_TOKEN.ID));
    }

    private static StoredRole role(Record row) {
        List<String> holds = row.get(ACCESS_ROLE.HOLDS).lines().toList();
        return new StoredRole(
                new Role(row.get(ACCESS_ROLE.NAME), row.get(ACCESS_ROLE.ABOUT), holds), row.get(ACCESS_ROLE.WORKSPACE));
    }

    private static Person person(Record row, List<String> roles) {
        return new Person(
                row.get(PERSON.NAME),
                row.get(PERSON.FULL_NAME),
                row.get(PERSON.PASSWORD_HASH),
                row.get(PERSON.FACTOR_SECRET),
                row.get(PERSON.FACTOR_STEP),
                row.get(PERSON.DISABLED),
                Moments.read(row.get(PERSON.CREATED_AT)),
                row.get(PERSON.PROVIDER),
                row.get(PERSON.SUBJECT),
                row.get(PERSON.TEAM),
                roles);
    }

    private static ClientApplication client(
            Record row,
            List<String> roles,
            List<GivenPrivilege> given,
            List<ClientApplication.Credential> credentials) {
        return new ClientApplication(
                row.get(CLIENT_APPLICATION.NAME),
                row.get(CLIENT_APPLICATION.ABOUT),
                row.get(CLIENT_APPLICATION.OWNER),
                row.get(CLIENT_APPLICATION.CONTACT),
                row.get(CLIENT_APPLICATION.DISABLED),
                Moments.read(row.get(CLIENT_APPLICATION.CREATED_AT)),
                lines(row.get(CLIENT_APPLICATION.ADDRESSES)),
                quota(row),
                lines(row.get(CLIENT_APPLICATION.SUBJECTS)),
                row.get(CLIENT_APPLICATION.TEAM),
                roles,
                given,
                credentials);
    }

    private static GivenPrivilege given(Record row) {
        return new GivenPrivilege(
                row.get(CLIENT_PRIVILEGE.PRIVILEGE),
                row.get(CLIENT_PRIVILEGE.GIVEN_BY),
                Moments.read(row.get(CLIENT_PRIVILEGE.GIVEN_AT)),
                Moments.readOptional(row.get(CLIENT_PRIVILEGE.ENDS_AT)),
                row.get(CLIENT_PRIVILEGE.REQUEST_ID));
    }

    private static Team team(Record row) {
        return new Team(
                row.get(TEAM.NAME),
                row.get(TEAM.TITLE),
                row.get(TEAM.CONTACT),
                row.get(TEAM.WEBHOOK),
                row.get(TEAM.WEBHOOK_KEY),
                Moments.read(row.get(TEAM.CREATED_AT)));
    }

    private static @Nullable Quota quota(Record row) {
        Integer seconds = row.get(CLIENT_APPLICATION.QUOTA_SECONDS);
        return seconds == null
                ? null
                : new Quota(
                        row.get(CLIENT_APPLICATION.QUOTA_CALLS),
                        Duration.ofSeconds(seconds),
                        row.get(CLIENT_APPLICATION.QUOTA_CONCURRENT),
                        false);
    }

    private static List<String> lines(@Nullable String text) {
        return text == null ? List.of() : text.lines().toList();
    }

    private static ClientApplication.Credential credential(Record row) {
        return new ClientApplication.Credential(
                row.get(CLIENT_CREDENTIAL.ID),
                row.get(CLIENT_CREDENTIAL.NAME),
                row.get(CLIENT_CREDENTIAL.SECRET_SHA256),
                Moments.read(row.get(CLIENT_CREDENTIAL.CREATED_AT)),
                Moments.readOptional(row.get(CLIENT_CREDENTIAL.ENDS_AT)),
                Moments.readOptional(row.get(CLIENT_CREDENTIAL.USED_AT)));
    }

    private static Session session(Record row) {
        return new Session(
                row.get(SESSION.ID),
                row.get(SESSION.PERSON),
                Session.Kind.valueOf(
                        row.get(SESSION.KIND).toUpperCase(Locale.ROOT).replace('-', '_')),
                row.get(SESSION.SECRET_SHA256),
                Moments.read(row.get(SESSION.OPENED_AT)),
                Moments.read(row.get(SESSION.ENDS_AT)),
                Moments.read(row.get(SESSION.USED_AT)),
                row.get(SESSION.ADDRESS));
    }
}
