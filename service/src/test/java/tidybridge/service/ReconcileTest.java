package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Together.atOnce;

import java.net.http.HttpResponse;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.definition.SourceDefinition;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.ModulePlan;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tidybridge.engine.SourceSettings;
import tidybridge.engine.Sources;
import tidybridge.records.Publisher;
import tidybridge.records.Records;
import tidybridge.records.ReleaseChanges;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.LiveModules;
import tidybridge.service.live.TextCompiler;
import tools.jackson.databind.JsonNode;

/** What is live changes without anybody waiting for it, however many change it at once. */
class ReconcileTest {

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.fresh();
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static HttpResponse<String> publish(String name, String version, int answer) throws Exception {
        return service.publish("""
                module: %s
                version: %s
                title: Counter
                source: waterways
                public: true
                routes:
                  /n:
                    get: { about: A number, sql: n.sql, answer: value }
                """.formatted(name, version), Map.of("n.sql", "select " + answer + " as n"));
    }

    /** The first status that is not 503: on a busy machine the records' few connections are not enough for all at once, who may then ask again. */
    private static int publishedAmongMany(String name, int answer) throws Exception {
        return Until.seen(() -> publish(name, "1.0.0", answer).statusCode(), status -> status != 503);
    }

    private static JsonNode value(String name) throws Exception {
        return service.json("/api/" + name + "/v1/n").path("value");
    }

    @Test
    void whatManyPublishAtOnceIsLiveWhenTheyAreTold() throws Exception {
        AtomicInteger next = new AtomicInteger();
        List<Boolean> live = atOnce(12, () -> {
            int mine = next.incrementAndGet();
            assertThat(publishedAmongMany("counter" + mine, mine)).isEqualTo(200);
            return value("counter" + mine).asInt() == mine;
        });
        assertThat(live).containsOnly(true);
        for (int i = 1; i <= 12; i++) {
            assertThat(value("counter" + i).asInt()).isEqualTo(i);
        }
    }

    /** A service that has just started compiles a module when its first caller comes, and the others meanwhile. */
    @Test
    void justAfterTheStartEachModuleIsCompiledForItsFirstCaller() throws Exception {
        assertThat(publish("early", "1.0.0", 1).statusCode()).isEqualTo(200);
        assertThat(publish("late", "1.0.0", 1).statusCode()).isEqualTo(200);
        try (LiveModules started = LiveModules.load(
                service.context().getBean(Records.class),
                service.context().getBean(Sources.class),
                service.context().getBean(TextCompiler.class),
                service.context().getBean(Continuation.class),
                service.context().getBean(MaskKey.class),
                Clock.systemUTC())) {
            assertThat(started.now().isPartial()).isTrue();
            assertThat(started.now().module("early/v1").state()).isEqualTo(LiveModule.State.PENDING);
            assertThat(atOnce(
                                    8,
                                    () -> started.completed("/early/v1/n")
                                            .module("early/v1")
                                            .plan())
                            .stream()
                            .distinct())
                    .as("compiled once, for all who came")
                    .hasSize(1)
                    .doesNotContainNull();
            assertThat(started.now().module("late/v1").state()).isEqualTo(LiveModule.State.PENDING);
            ModulePlan early = started.now().module("early/v1").plan();
            // another node publishes before this one has come to it
            assertThat(publish("late", "1.1.0", 2).statusCode()).isEqualTo(200);
            started.catchUp();
            started.compileRest();
            assertThat(started.whole().isPartial()).isFalse();
            assertThat(started.now().module("late/v1").release().version()).hasToString("1.1.0");
            assertThat(started.now().module("late/v1").state()).isEqualTo(LiveModule.State.SERVED);
            assertThat(started.now().module("early/v1").plan()).isSameAs(early);
        }
    }

    /** Whoever compiles live modules again must not bring back what was live when they began. */
    @Test
    void sourcesThatChangeMeanwhileLoseNoPublish() throws Exception {
        SourceSettings now = service.context()
                .getBean(Sources.class)
                .find("waterways")
                .orElseThrow()
                .settings();
        LiveModules modules = service.context().getBean(LiveModules.class);
        AtomicBoolean done = new AtomicBoolean();
        CompletableFuture<Void> changing = CompletableFuture.runAsync(() -> {
            // few, because each keeps its connections until the calls that use them are certainly done
            for (int i = 0; i < 5 && !done.get(); i++) {
                modules.useSources(List.of(told(now, "Told " + i)));
            }
        });
        AtomicInteger next = new AtomicInteger();
        List<Boolean> live = atOnce(12, () -> {
            int mine = next.incrementAndGet();
            assertThat(publishedAmongMany("moving" + mine, mine)).isEqualTo(200);
            return value("moving" + mine).asInt() == mine;
        });
        done.set(true);
        changing.get(60, TimeUnit.SECONDS);
        assertThat(live).containsOnly(true);
        modules.useSources(List.of(now));
        for (int i = 1; i <= 12; i++) {
            assertThat(value("moving" + i).asInt()).isEqualTo(i);
        }
    }

    private static SourceSettings told(SourceSettings like, String about) {
        return new SourceSettings(
                like.name(),
                like.kind(),
                about,
                like.host(),
                like.port(),
                like.schema(),
                like.user(),
                like.secret(),
                like.transport(),
                like.certificate(),
                like.readOnly(),
                like.connections(),
                like.patience(),
                like.timeout(),
                SourceDefinition.DEFAULT_ALL_TIMEOUT);
    }

    @Test
    void callsAreAnsweredWhileAPublishWaitsForTheRecordStore() throws Exception {
        assertThat(publish("steady", "1.0.0", 1).statusCode()).isEqualTo(200);
        try (var connection = TestDatabase.server().connect(DemoDatabase.RECORDS_SCHEMA);
                var statement = connection.createStatement()) {
            statement.execute("lock tables live_release write, module_release write");
            CompletableFuture<HttpResponse<String>> publishing = CompletableFuture.supplyAsync(() -> {
                try {
                    return publish("steady", "1.0.1", 2);
                } catch (Exception e) {
                    throw new IllegalStateException(e);
                }
            });
            Until.holds(() -> !TestDatabase.column("select id from information_schema.processlist"
                            + " where state like 'Waiting for table metadata lock%' and info like '%release%'")
                    .isEmpty());
            for (int i = 0; i < 50; i++) {
                assertThat(value("steady").asInt()).isEqualTo(1);
            }
            assertThat(publishing).as("the store is locked").isNotDone();
            statement.execute("unlock tables");
            assertThat(publishing.get(20, TimeUnit.SECONDS).statusCode()).isEqualTo(200);
        }
        assertThat(value("steady").asInt()).isEqualTo(2);
    }

    /** What somebody else wrote into the records is served by whoever reads them and reconciles; what stays is not compiled again. */
    @Test
    void exactlyWhatShouldBeLiveIsServed() throws Exception {
        assertThat(publish("shown", "1.0.0", 5).statusCode()).isEqualTo(200);
        LiveModules modules = service.context().getBean(LiveModules.class);
        ReleaseChanges releases = service.context().getBean(Records.class).releaseChanges();
        Publisher somebody = new Publisher("somebody else", null, Instant.now());
        LiveModule before = modules.now().module("shown/v1");
        releases.retire(before.release(), "for a moment", somebody);
        modules.reconcile();
        assertThat(service.get("/api/shown/v1/n").statusCode()).isEqualTo(410);
        releases.revert(before.release(), null, null, null, somebody);
        modules.reconcile();
        assertThat(value("shown").asInt()).isEqualTo(5);
        LiveModule again = modules.now().module("shown/v1");
        modules.reconcile();
        assertThat(modules.now().module("shown/v1"))
                .as("what is live stays as it is")
                .isSameAs(again);
        assertThat(again).isNotSameAs(before);
    }
}
