package tidybridge.records;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.core.access.Quota;
import tidybridge.core.access.Role;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;

class AccessRecordsTest {

    private static final Instant NOW = Instant.parse("2031-05-01T10:00:00Z");

    private Records records;
    private AccessRecords access;

    @BeforeEach
    void open() throws Exception {
        TestDatabase.emptyRecords();
        records = Records.open(new RecordsSettings(
                "127.0.0.1",
                TestDatabase.server().port(),
                DemoDatabase.RECORDS_SCHEMA,
                DemoDatabase.RECORDS_USER,
                TestDatabase.PASSWORD,
                false));
        access = records.access();
    }

    @AfterEach
    void close() {
        records.close();
    }

    private static AuditEntry entry(String action) {
        return new AuditEntry(NOW, "tests", null, action, "subject", "detail");
    }

    private static Person person(String name, String... roles) {
        return new Person(name, "Somebody", null, null, 0, false, NOW, null, null, null, List.of(roles));
    }

    private static Session session(String id, @Nullable String person, Instant openedAt) {
        return new Session(
                id,
                person,
                Session.Kind.COMMAND_LINE,
                "0".repeat(64),
                openedAt,
                openedAt.plus(Duration.ofDays(1)),
                openedAt,
                "192.0.2.1");
    }

    @Test
    void everyChangeRaisesTheNumberAndWhatChangesNothingDoesNot() {
        long before = access.number();
        access.put(new StoredRole(new Role("keeper", "Keeps", List.of("a.b", "c.*")), null), entry("put"));
        assertThat(access.number()).isGreaterThan(before);
        assertThat(access.read(NOW).roles())
                .containsExactly(new StoredRole(new Role("keeper", "Keeps", List.of("a.b", "c.*")), null));
        assertThat(access.removeRole("nobody", entry("remove"))).isFalse();
        assertThat(access.removeRole("keeper", entry("remove"))).isTrue();
        assertThat(access.read(NOW).roles()).isEmpty();
    }

    @Test
    void aRoleThatGoesIsTakenFromEverybody() {
        access.put(new StoredRole(new Role("keeper", null, List.of("a.b")), "W"), entry("put"));
        access.put(person("mara", "keeper", "operator"), entry("put"));
        access.takeRoles("W", List.of(new Role("clerk", null, List.of("a.c"))), List.of("keeper"), entry("take"));
        assertThat(access.read(NOW).people().getFirst().roles()).containsExactly("operator");
        assertThat(access.read(NOW).roles())
                .extracting(stored -> stored.role().name())
                .containsExactly("clerk");
    }

    @Test
    void aPersonKeepsThePasswordThroughOtherChangesAndLosesSessionsWithIt() {
        access.put(person("mara", "operator"), entry("put"));
        access.password("mara", "hash", null, entry("password"));
        access.open(session("1".repeat(16), "mara", NOW), entry("open"));
        access.open(session("2".repeat(16), "mara", NOW), entry("open"));
        access.put(person("mara", "reviewer"), entry("put"));
        assertThat(access.read(NOW).people().getFirst().passwordHash()).isEqualTo("hash");
        access.password("mara", "other", "2".repeat(16), entry("password"));
        assertThat(access.read(NOW).sessions()).extracting(Session::id).containsExactly("2".repeat(16));
        access.removePerson("mara", entry("remove"));
        assertThat(access.read(NOW).sessions()).isEmpty();
    }

    @Test
    void sessionsEndByThemselvesAndTheOldestOfTooMany() {
        access.put(person("mara"), entry("put"));
        for (int i = 0; i < AccessRecords.MOST_SESSIONS + 5; i++) {
            access.open(session("%016x".formatted(i), "mara", NOW.plusSeconds(i)), entry("open"));
        }
        access.open(session("f".repeat(16), null, NOW), entry("open"));
        List<Session> open = access.read(NOW).sessions();
        assertThat(open).hasSize(AccessRecords.MOST_SESSIONS + 1);
        assertThat(open).extracting(Session::id).contains("f".repeat(16)).doesNotContain("%016x".formatted(4));
        assertThat(access.read(NOW.plus(Duration.ofDays(2))).sessions()).isEmpty();
    }

    @Test
    void aCodeIsUsedOnceByWhoeverIsFirst() throws Exception {
        access.codes().add("a".repeat(64), null, NOW.plusSeconds(60), entry("code"));
        assertThat(access.codes().look("a".repeat(64), NOW).known()).isTrue();
        assertThat(access.codes().look("a".repeat(64), NOW.plusSeconds(61)).known())
                .isFalse();
        assertThat(access.codes().look("b".repeat(64), NOW).known()).isFalse();
        assertThat(together(() -> access.codes().use("a".repeat(64)))).containsOnlyOnce(true);
    }

    @Test
    void aStepOfASecondFactorIsUsedOnce() throws Exception {
        access.put(person("mara"), entry("put"));
        assertThat(together(() -> access.useFactor("mara", 57))).containsOnlyOnce(true);
        assertThat(access.useFactor("mara", 56)).as("an earlier one").isFalse();
        assertThat(access.useFactor("mara", 58)).isTrue();
    }

    private static List<Boolean> together(Callable<Boolean> work) throws Exception {
        List<Boolean> done = new ArrayList<>();
        try (ExecutorService threads = Executors.newFixedThreadPool(4)) {
            for (var one : threads.invokeAll(List.of(work, work, work, work))) {
                done.add(one.get());
            }
        }
        return done;
    }

    private static ClientApplication quay(@Nullable Quota quota) {
        return new ClientApplication(
                "quay",
                null,
                "Office",
                "a@b.example",
                false,
                NOW,
                List.of("10.0.0.0/8"),
                quota,
                List.of("CN=quay"),
                null,
                List.of(),
                List.of(),
                List.of());
    }

    @Test
    void credentialsHaveNamesOfTheirOwnAndGoWithTheirApplication() {
        ClientApplication client = quay(new Quota(1000, Duration.ofMinutes(1), 5, false));
        access.put(client, entry("put"));
        assertThat(access.read(NOW).clients().getFirst().quota()).isEqualTo(client.quota());
        ClientApplication.Credential key =
                new ClientApplication.Credential("1".repeat(16), "spring", "0".repeat(64), NOW, null, null);
        assertThat(access.add("quay", key, entry("add"))).isTrue();
        ClientApplication.Credential twin =
                new ClientApplication.Credential("2".repeat(16), "spring", "0".repeat(64), NOW, null, null);
        assertThat(access.add("quay", twin, entry("add"))).isFalse();
        access.used(Map.of("1".repeat(16), NOW.plusSeconds(5)), Map.of());
        access.put(quay(null), entry("put"));
        ClientApplication kept = access.read(NOW).clients().getFirst();
        assertThat(kept.addresses()).containsExactly("10.0.0.0/8");
        assertThat(kept.subjects()).containsExactly("CN=quay");
        assertThat(kept.quota()).isNull();
        assertThat(kept.credentials()).singleElement().satisfies(one -> {
            assertThat(one.name()).isEqualTo("spring");
            assertThat(one.usedAt()).isEqualTo(NOW.plusSeconds(5));
        });
        assertThat(access.removeClient("quay", entry("remove"))).isTrue();
        assertThat(access.revoke("quay", "spring", entry("revoke"))).isFalse();
    }

    @Test
    void oneOfSeveralServicesMakesTheNextKeyForSigning() throws Exception {
        Instant since = NOW.minus(Duration.ofDays(30));
        for (int i = 0; i < 3; i++) {
            access.addSigningKey(new SigningKey("key" + i, "{}", NOW.plusSeconds(i)), since, since, entry("key"));
        }
        assertThat(access.read(NOW).signingKeys()).extracting(SigningKey::id).containsExactly("key0");
        Instant later = NOW.plus(Duration.ofDays(40));
        access.addSigningKey(
                new SigningKey("next", "{}", later),
                later.minus(Duration.ofDays(30)),
                NOW.plusSeconds(60),
                entry("key"));
        assertThat(access.read(later).signingKeys()).extracting(SigningKey::id).containsExactly("next");
    }

    @Test
    void revokedTokensAreForgottenWhenTheyWouldHaveEndedAndAreBounded() {
        assertThat(access.revokeToken("t1", "quay", NOW.plusSeconds(60), 2, entry("revoke")))
                .isTrue();
        assertThat(access.revokeToken("t1", "quay", NOW.plusSeconds(60), 2, entry("revoke")))
                .isTrue();
        assertThat(access.revokeToken("t2", "quay", NOW.plusSeconds(60), 2, entry("revoke")))
                .isTrue();
        assertThat(access.revokeToken("t3", "quay", NOW.plusSeconds(60), 2, entry("revoke")))
                .isFalse();
        assertThat(access.revokeToken("t4", "other", NOW.plusSeconds(60), 2, entry("revoke")))
                .isTrue();
        assertThat(access.read(NOW).revokedTokens()).containsExactlyInAnyOrder("t1", "t2", "t4");
        assertThat(access.read(NOW.plusSeconds(61)).revokedTokens()).isEmpty();
    }

    @Test
    void whatIsChangedIsWrittenDownWithIt() throws Exception {
        access.put(person("mara"), entry("set-person"));
        access.removePerson("nobody", entry("remove-person"));
        assertThat(TestDatabase.column("select action from " + DemoDatabase.RECORDS_SCHEMA + ".audit_entry"))
                .as("what changed nothing is not there")
                .containsExactly("set-person");
    }
}
