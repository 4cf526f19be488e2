package tidybridge.records;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import javax.sql.DataSource;
import org.jooq.exception.DataAccessException;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mariadb.jdbc.MariaDbDataSource;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.records.Published.Outcome;

class RecordsTest {

    private static final Instant NOW = Instant.parse("2031-05-01T10:00:00.123456Z");

    private static final Publisher BY = new Publisher("somebody", null, NOW);

    private Records records;

    @BeforeEach
    void open() throws Exception {
        TestDatabase.emptyRecords();
        records = Records.open(settings(TestDatabase.server().port()));
    }

    private static RecordsSettings settings(int port) {
        return new RecordsSettings(
                "127.0.0.1",
                port,
                DemoDatabase.RECORDS_SCHEMA,
                DemoDatabase.RECORDS_USER,
                TestDatabase.PASSWORD,
                false);
    }

    @AfterEach
    void close() {
        records.close();
    }

    private static NewRelease release(String module, String version, String text) {
        ModuleText moduleText = new ModuleText("modules/" + module, Map.of("module.yaml", text, "a.sql", "select 'é'"));
        KeptContract kept = new KeptContract("{\"of\":\"" + text + "\"}", "{}", "[]", null, null, null, null, null);
        return new NewRelease(module, Version.parse(version).orElseThrow(), "waterways", moduleText, kept, null);
    }

    /** Publishes in place of whatever is live now. */
    private Outcome publish(NewRelease release) throws Exception {
        return publish(List.of(release)).getFirst().outcome();
    }

    private List<Published> publish(List<NewRelease> releases) throws Exception {
        Releases all = records.releases();
        List<NewRelease> replacing = releases.stream()
                .map(one -> new NewRelease(
                        one.module(),
                        one.version(),
                        one.source(),
                        one.text(),
                        one.kept(),
                        all.live(one.module(), one.version().major())
                                .map(Release::id)
                                .orElse(null)))
                .toList();
        return records.releaseChanges().publish(replacing, BY);
    }

    private List<String> live() {
        return records.releases().all().stream()
                .filter(ReleaseEntry::live)
                .map(live -> live.module() + " " + live.version())
                .sorted()
                .toList();
    }

    @Test
    void aReleaseIsKeptWithItsTextAndWhoAndWhen() throws Exception {
        NewRelease module = release("moorings", "1.0.0", "text");
        assertThat(publish(module)).isEqualTo(Outcome.PUBLISHED);
        Release kept = records.releases().of(records.releases().live()).getFirst();
        assertThat(kept.text()).isEqualTo(module.text());
        assertThat(kept.publishedBy()).isEqualTo("somebody");
        assertThat(kept.publishedAt()).isEqualTo(Instant.parse("2031-05-01T10:00:00.123Z"));
        assertThat(kept.hash()).matches("[0-9a-f]{64}");
    }

    @Test
    void majorVersionsLiveSideBySideAndTheNewestOfEachIsLive() throws Exception {
        publish(release("moorings", "1.0.0", "a"));
        publish(release("moorings", "1.1.0", "b"));
        publish(release("moorings", "2.0.0", "c"));
        assertThat(live()).containsExactly("moorings 1.1.0", "moorings 2.0.0");
        assertThat(records.releases().all()).hasSize(3);
    }

    @Test
    void theSameTextAgainChangesNothingAndAnOlderOneGoesLiveAgain() throws Exception {
        publish(release("moorings", "1.0.0", "a"));
        assertThat(publish(release("moorings", "1.0.0", "a"))).isEqualTo(Outcome.UNCHANGED);
        publish(release("moorings", "1.1.0", "b"));
        assertThat(publish(release("moorings", "1.0.0", "a"))).isEqualTo(Outcome.LIVE_AGAIN);
        assertThat(live()).containsExactly("moorings 1.0.0");
    }

    @Test
    void anotherTextUnderAKnownVersionIsRefusedAndNothingOfTheRequestStays() throws Exception {
        publish(release("moorings", "1.0.0", "a"));
        List<NewRelease> both = List.of(release("tolls", "1.0.0", "t"), release("moorings", "1.0.0", "other"));
        assertThatThrownBy(() -> publish(both)).isInstanceOf(VersionTaken.class);
        assertThat(live()).containsExactly("moorings 1.0.0");
        assertThat(records.releases().all()).hasSize(1);
    }

    @Test
    void ofSeveralWhoPublishTheSameAtOnceNobodyIsRefused() throws Exception {
        for (int round = 0; round < 10; round++) {
            NewRelease same = release("moorings", "1.0." + round, "text " + round);
            try (java.util.concurrent.ExecutorService workers = java.util.concurrent.Executors.newFixedThreadPool(4)) {
                List<java.util.concurrent.Future<Outcome>> all = new java.util.ArrayList<>();
                for (int i = 0; i < 4; i++) {
                    all.add(workers.submit(() -> publish(same)));
                }
                int published = 0;
                for (java.util.concurrent.Future<Outcome> one : all) {
                    published += one.get() == Outcome.PUBLISHED ? 1 : 0;
                }
                assertThat(published).isEqualTo(1);
            }
            assertThat(live()).containsExactly("moorings 1.0." + round);
        }
    }

    @Test
    void noReleaseCanBeChangedOrDeletedNotEvenInTheDatabase() throws Exception {
        publish(release("moorings", "1.0.0", "a"));
        String schema = DemoDatabase.RECORDS_SCHEMA;
        assertThatThrownBy(() -> TestDatabase.execute(schema, "update module_release set content = '{}'"))
                .hasMessageContaining("never changes");
        assertThatThrownBy(() -> TestDatabase.execute(schema, "delete from module_release"))
                .hasMessageContaining("never deleted");
    }

    /** A node that dies loses its connection, and the store undoes what was not made final. */
    @Test
    void aPublisherThatDiesInTheMiddleLeavesNothing() throws Exception {
        publish(release("tolls", "1.0.0", "a"));
        String schema = DemoDatabase.RECORDS_SCHEMA;
        try (Connection other = TestDatabase.server().connect(schema);
                Statement holding = other.createStatement();
                ExecutorService worker = Executors.newSingleThreadExecutor()) {
            other.setAutoCommit(false);
            holding.execute("update live_release set release_id = release_id where module = 'tolls'");
            Future<?> publishing = worker.submit(
                    () -> publish(List.of(release("moorings", "1.0.0", "m"), release("tolls", "1.0.1", "b"))));
            String waiting = "";
            while (waiting.isEmpty()) {
                assertThat(publishing).as("it waits for the row of tolls").isNotDone();
                List<String> found = TestDatabase.column(
                        "select id from information_schema.processlist where info like '%live_release%' and user = '"
                                + DemoDatabase.RECORDS_USER + "'");
                waiting = found.isEmpty() ? "" : found.getFirst();
            }
            TestDatabase.execute("", "kill " + waiting);
            assertThatThrownBy(publishing::get).hasCauseInstanceOf(DataAccessException.class);
            other.rollback();
        }
        assertThat(live()).containsExactly("tolls 1.0.0");
        assertThat(records.releases().all()).hasSize(1);
        assertThat(records.releases().changes("moorings")).isEmpty();
        assertThat(publish(List.of(release("moorings", "1.0.0", "m"), release("tolls", "1.0.1", "b"))))
                .extracting(Published::outcome)
                .containsOnly(Outcome.PUBLISHED);
    }

    /** What was looked at is what is replaced, or nothing is. */
    @Test
    void whoeverOverlookedAnotherReleaseIsTold() throws Exception {
        publish(release("moorings", "1.0.0", "a"));
        Long looked = records.releases().live().getFirst();
        publish(release("moorings", "1.1.0", "b"));
        NewRelease late = release("moorings", "1.2.0", "c");
        NewRelease replacing =
                new NewRelease(late.module(), late.version(), late.source(), late.text(), late.kept(), looked);
        assertThatThrownBy(() -> records.releaseChanges().publish(List.of(replacing), BY))
                .isInstanceOf(LiveMoved.class)
                .hasMessageEndingWith("1.1.0 is live now");
        Release first =
                records.releases().find("moorings", new Version(1, 0, 0)).orElseThrow();
        assertThatThrownBy(() -> records.releaseChanges().revert(first, looked, null, "late", BY))
                .isInstanceOf(LiveMoved.class);
        assertThatThrownBy(() -> records.releaseChanges().retire(first, "late", BY))
                .isInstanceOf(LiveMoved.class);
        assertThat(live()).containsExactly("moorings 1.1.0");
        assertThat(records.releases().all()).hasSize(2);
    }

    @Test
    void goingBackToWhatIsLiveChangesNothing() throws Exception {
        publish(release("moorings", "1.0.0", "a"));
        Release live = records.releases().live("moorings", 1).orElseThrow();
        assertThat(records.releaseChanges().revert(live, live.id(), null, null, BY))
                .isFalse();
        assertThat(records.releases().changes("moorings")).hasSize(1);
    }

    @Test
    void whatOldReleasesDifferedInIsNotRead() throws Exception {
        for (int i = 0; i < Releases.MOST_WITH_DIFFERENCES + 5; i++) {
            ModuleText text = new ModuleText("m", Map.of("module.yaml", "text " + i));
            KeptContract kept = new KeptContract("{}", "{}", "[]", null, "[]", null, null, null);
            Long before =
                    records.releases().live("moorings", 1).map(Release::id).orElse(null);
            records.releaseChanges()
                    .publish(List.of(new NewRelease("moorings", new Version(1, i, 0), "w", text, kept, before)), BY);
        }
        List<ReleaseEntry> history = records.releases().history("moorings");
        assertThat(history).hasSize(Releases.MOST_WITH_DIFFERENCES + 5);
        assertThat(history.stream().filter(release -> release.differences() != null))
                .hasSize(Releases.MOST_WITH_DIFFERENCES);
        assertThat(history.getFirst().differences()).isNotNull();
        assertThat(records.releases().changes("moorings").stream().filter(change -> change.differences() != null))
                .hasSize(Releases.MOST_WITH_DIFFERENCES);
    }

    @Test
    void aSecretIsMadeOnceAndShared() {
        String first = records.secret("key", () -> "one");
        assertThat(records.secret("key", () -> "two")).isEqualTo(first).isEqualTo("one");
    }

    @Test
    void openingAgainKeepsEverything() throws Exception {
        publish(release("moorings", "1.0.0", "a"));
        try (Records again = Records.open(settings(TestDatabase.server().port()))) {
            assertThat(again.releases().live()).hasSize(1);
        }
    }

    @Test
    void aStoreThatDoesNotAnswerIsSaidInOneSentence() {
        assertThatThrownBy(() -> Records.open(settings(1)))
                .isInstanceOf(RecordsFailure.class)
                .hasMessageStartingWith("The record store (tidy_records at 127.0.0.1:1/tidy_records) cannot be used: ")
                .hasMessageNotContaining(TestDatabase.PASSWORD);
    }

    /** On a busy machine the first connection took longer than a call may wait for one, and a start failed for it. */
    @Test
    void aStoreThatIsSlowAtFirstIsWaitedFor() throws Exception {
        ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor();
        try (ServerSocket slow = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
            threads.submit(() -> {
                for (long delay = 850; ; delay = 0) {
                    Socket caller = slow.accept();
                    Thread.sleep(delay);
                    Socket store = new Socket(
                            slow.getInetAddress(), TestDatabase.server().port());
                    threads.submit(() -> caller.getInputStream().transferTo(store.getOutputStream()));
                    threads.submit(() -> store.getInputStream().transferTo(caller.getOutputStream()));
                }
            });
            try (Records again = Records.open(settings(slow.getLocalPort()))) {
                assertThat(again.releases().live()).isEmpty();
            }
        } finally {
            threads.shutdownNow();
        }
    }

    @Test
    void aSchemaIsKnownWhenEveryMigrationIsAsInThisProgram() throws Exception {
        DataSource store = new MariaDbDataSource("jdbc:mariadb://127.0.0.1:"
                + TestDatabase.server().port() + "/" + DemoDatabase.RECORDS_SCHEMA + "?user="
                + DemoDatabase.RECORDS_USER + "&password=" + TestDatabase.PASSWORD);
        assertThat(KnownSchema.isIn(store)).isTrue();
        assertThat(Records.flyway(store).load().info().all()).hasSize(KnownSchema.NEWEST);
        for (String change : List.of(
                "update schema_version set script = 'V3__other.sql' where version = '3'",
                "update schema_version set script = 'V3__outcomes_and_audit.sql', success = false where version = '3'",
                "update schema_version set success = true, checksum = checksum + 1 where version = '3'",
                "delete from schema_version where version = '16'")) {
            TestDatabase.execute(DemoDatabase.RECORDS_SCHEMA, change);
            assertThat(KnownSchema.isIn(store)).as(change).isFalse();
        }
        assertThatThrownBy(() ->
                        Records.open(settings(TestDatabase.server().port())).close())
                .as("another program's migration")
                .isInstanceOf(RecordsFailure.class)
                .hasMessageContaining("checksum");
        TestDatabase.emptyRecords();
        assertThat(KnownSchema.isIn(store)).as("an empty store").isFalse();
    }
}
