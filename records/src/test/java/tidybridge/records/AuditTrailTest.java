package tidybridge.records;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.core.access.Role;
import tidybridge.demo.TestDatabase;
import tidybridge.records.AuditTrail.Search;

/** A trail that nobody can change unnoticed, over tables whose owner is somebody else than the service's user. */
class AuditTrailTest {

    private static final String SCHEMA = "tidy_records_owned";
    private static final String OWNER = "tidy_owner";
    private static final String USER = "tidy_user";
    private static final Instant NOW = Instant.parse("2031-04-02T10:00:00.123Z");

    private Records records;
    private AuditTrail trail;

    @BeforeEach
    void open() throws Exception {
        TestDatabase.execute(
                "",
                "drop database if exists " + SCHEMA,
                "create database " + SCHEMA,
                "create or replace user " + OWNER + "@'127.0.0.1' identified by 'owner'",
                "create or replace user " + USER + "@'127.0.0.1' identified by 'user'",
                "grant all on " + SCHEMA + ".* to " + OWNER + "@'127.0.0.1' with grant option");
        records = Records.open(settings(true));
        trail = records.audit();
    }

    @AfterEach
    void close() {
        records.close();
    }

    private static RecordsSettings settings(boolean owned) {
        return new RecordsSettings(
                "127.0.0.1",
                TestDatabase.server().port(),
                SCHEMA,
                USER,
                "user",
                false,
                owned ? new RecordsSettings.Owner(OWNER, "owner") : null);
    }

    private static AuditEntry entry(int number) {
        return new AuditEntry(
                        NOW.plusSeconds(number),
                        number % 2 == 0 ? "mara.holt" : "the service",
                        number % 2 == 0 ? "192.0.2.7" : null,
                        "set-role",
                        "röle " + number,
                        "holds ⚓ 'a\"b'")
                .changing(number == 1 ? null : "{\"n\":" + (number - 1) + "}", "{\"n\":" + number + "}");
    }

    private void add(int entries) {
        for (int i = 1; i <= entries; i++) {
            trail.add(entry(i));
        }
    }

    private static Search search(@Nullable String who, @Nullable String text) {
        return new Search(who, null, null, text, null, null, null);
    }

    /** With every right, and past the triggers. */
    private static void tamper(String sql) throws SQLException {
        TestDatabase.execute(
                SCHEMA, "drop trigger if exists audit_never_changes", "drop trigger if exists audit_never_goes", sql);
    }

    @Test
    void entriesAreFoundAsTheyWereAdded() {
        add(5);
        assertThat(trail.find(search(null, null), 10))
                .extracting(AuditTrail.StoredEntry::entry)
                .containsExactly(entry(5), entry(4), entry(3), entry(2), entry(1));
        assertThat(trail.find(search("mara.holt", null), 10)).hasSize(2);
        assertThat(trail.find(search(null, "\"n\":4}"), 10)).hasSize(2);
        assertThat(trail.find(search(null, "%"), 10)).as("not a pattern").isEmpty();
        long third = trail.find(search(null, null), 10).get(2).id();
        assertThat(trail.find(search(null, null).before(third), 10)).hasSize(2);
        Search days = new Search(null, "set-role", null, null, NOW.plusSeconds(2), NOW.plusSeconds(4), null);
        assertThat(trail.find(days, 10))
                .extracting(AuditTrail.StoredEntry::entry)
                .containsExactly(entry(3), entry(2));
        assertThat(trail.states("set-role")).hasSize(5).containsEntry("röle 5", "{\"n\":5}");
    }

    @Test
    void aWholeTrailIsWhole() {
        assertThat(trail.check(null).trouble()).isNull();
        add(3);
        AuditTrail.Head noted = trail.head();
        add(2);
        AuditTrail.Check check = trail.check(noted);
        assertThat(check.trouble()).isNull();
        assertThat(check.entries()).isEqualTo(5);
    }

    @Test
    void whateverIsAlteredOrRemovedShows() throws Exception {
        List<String> ways = List.of(
                "update audit_entry set who = 'somebody' where id = 2",
                "update audit_entry set at = at + interval 1 second where id = 2",
                "update audit_entry set address = null where id = 2",
                "update audit_entry set detail = concat(detail, ' ') where id = 2",
                "update audit_entry set state_before = null where id = 2",
                "update audit_entry set state_after = '{}' where id = 5",
                "update audit_entry set sha256 = repeat('0', 64) where id = 3",
                "update audit_entry set sha256 = null where id = 3",
                "update audit_entry set previous_sha256 = repeat('0', 64) where id = 3",
                "delete from audit_entry where id = 1",
                "delete from audit_entry where id = 3",
                "delete from audit_entry where id = 5",
                "insert into audit_entry (at, who, action, subject, detail) values (now(), 'x', 'x', 'x', 'x')");
        for (String way : ways) {
            close();
            open();
            add(5);
            tamper(way);
            trail.add(entry(6));
            assertThat(trail.check(null).trouble()).as(way).isNotNull();
        }
    }

    @Test
    void aTrailThatWasMadeAnewDoesNotFitWhatWasNoted() throws Exception {
        add(5);
        AuditTrail.Head noted = trail.head();
        close();
        open();
        for (int i = 1; i <= 5; i++) {
            trail.add(entry(i == 3 ? 1 : i));
        }
        assertThat(trail.check(null).trouble()).isNull();
        assertThat(trail.check(noted).trouble()).contains("noted entry");
    }

    @Test
    void theServicesUserAddsAndReadsAndNothingElse() throws Exception {
        add(2);
        assertThat(trail.canBeRewritten()).isFalse();
        try (Connection connection = DriverManager.getConnection(
                        "jdbc:mariadb://127.0.0.1:" + TestDatabase.server().port() + "/" + SCHEMA + "?sslMode=disable",
                        USER,
                        "user");
                Statement statement = connection.createStatement()) {
            for (String sql : List.of(
                    "update audit_entry set who = 'x'",
                    "delete from audit_entry",
                    "truncate table audit_entry",
                    "alter table audit_entry drop column sha256",
                    "drop table audit_entry",
                    "drop trigger audit_never_goes",
                    "update module_release set content = ''",
                    "delete from module_release",
                    "create table other (id int)")) {
                assertThatThrownBy(() -> statement.execute(sql))
                        .as(sql)
                        .isInstanceOf(SQLException.class)
                        .hasMessageContaining("denied");
            }
        }
    }

    /** An owner who was granted what tables need, and not everything there is, takes a store over just as well. */
    @Test
    void anOwnerNeedsNoMoreThanTheTables() throws Exception {
        close();
        String needed = "select, insert, update, delete, create, alter, drop, index, references, trigger";
        TestDatabase.execute(
                "",
                "revoke all privileges, grant option from " + OWNER + "@'127.0.0.1'",
                "grant " + needed + " on " + SCHEMA + ".* to " + OWNER + "@'127.0.0.1' with grant option",
                "grant " + needed + " on " + SCHEMA + ".* to " + USER + "@'127.0.0.1'");
        for (int start = 0; start < 2; start++) {
            records = Records.open(settings(true));
            trail = records.audit();
            assertThat(trail.canBeRewritten()).isFalse();
            add(1);
            records.close();
        }
        records = Records.open(settings(true));
    }

    /** A store that was made by one user is taken over: what that user held for the whole schema is taken away. */
    @Test
    void anOlderStoreIsTakenOver() throws Exception {
        close();
        TestDatabase.execute(
                "",
                "drop database " + SCHEMA,
                "create database " + SCHEMA,
                "grant all on " + SCHEMA + ".* to " + USER + "@'127.0.0.1'");
        records = Records.open(settings(false));
        trail = records.audit();
        add(1);
        assertThat(trail.canBeRewritten()).isTrue();
        records.close();
        for (int start = 0; start < 2; start++) {
            records = Records.open(settings(true));
            trail = records.audit();
            assertThat(trail.canBeRewritten()).isFalse();
            trail.add(entry(2));
            records.close();
        }
        records = Records.open(settings(true));
        assertThat(records.audit().check(null).entries()).isEqualTo(3);
    }

    /** Changes of access, releases, sign-ins that failed: whoever adds an entry waits for its turn, and nobody fails. */
    @Test
    void severalServicesAddToOneChain() throws Exception {
        try (Records other = Records.open(settings(true));
                ExecutorService threads = Executors.newFixedThreadPool(8)) {
            List<Callable<Void>> all = new ArrayList<>();
            for (Records one : List.of(records, other, records, other)) {
                String name = "role" + all.size();
                all.add(() -> {
                    for (int i = 1; i <= 25; i++) {
                        one.audit().add(entry(i));
                    }
                    return null;
                });
                all.add(() -> {
                    for (int i = 1; i <= 25; i++) {
                        Role role = new Role(name, null, List.of("a.b"));
                        one.access().takeRoles("w", List.of(role), List.of("none" + i), entry(i));
                    }
                    return null;
                });
            }
            for (var done : threads.invokeAll(all, 60, TimeUnit.SECONDS)) {
                done.get();
            }
        }
        AuditTrail.Check check = trail.check(null);
        assertThat(check.trouble()).isNull();
        assertThat(check.entries()).isEqualTo(200);
    }
}
