package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Together.atOnce;

import java.net.http.HttpResponse;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tidybridge.service.live.LiveModules;
import tools.jackson.databind.JsonNode;

/** What a release promises is kept, compared with what comes next, and can be gone back to. */
class ReleasesTest {

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.apart("tidy_records_releases");
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "drop table if exists pontoon",
                "create table pontoon (id int primary key, name varchar(40) not null, length_m decimal(5,2) not null)",
                "insert into pontoon values (1, 'North', 12.5), (2, 'South', 8)");
    }

    @AfterAll
    static void stop() throws Exception {
        service.close();
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop table pontoon");
    }

    /** A module over the pontoons as a test varies it. */
    private record Pontoons(String name, String version, String columns, String more) {

        static Pontoons first(String name) {
            return new Pontoons(name, "1.0.0", "id, name, length_m", "");
        }

        Pontoons version(String next) {
            return new Pontoons(name, next, columns, more);
        }

        Pontoons columns(String others) {
            return new Pontoons(name, version, others, more);
        }

        Pontoons more(String lines) {
            return new Pontoons(name, version, columns, lines);
        }

        String yaml() {
            return """
                    module: %s
                    version: %s
                    title: Pontoons
                    source: waterways
                    public: true
                    accept: { open-to-everybody: the test calls it without a key }
                    routes:
                      /pontoons:
                        get:
                          about: Pontoons
                          sql: pontoons.sql
                          answer: rows
                          order: [id]
                          %s
                    """.formatted(name, version, more);
        }

        Map<String, String> statements() {
            return Map.of("pontoons.sql", "select " + columns + " from pontoon");
        }

        HttpResponse<String> publish() throws Exception {
            return service.publish(yaml(), statements());
        }

        HttpResponse<String> publishBreaking(String reason) throws Exception {
            return service.publishBreaking(yaml(), statements(), reason);
        }

        HttpResponse<String> call() throws Exception {
            return service.get("/api/" + name + "/v" + version.charAt(0) + "/pontoons");
        }
    }

    private static JsonNode ok(HttpResponse<String> response) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    private static JsonNode refused(HttpResponse<String> response, int status) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(status);
        return RunningService.json(response);
    }

    private static String live(String name, int major) throws Exception {
        return service.desk("/desk/modules/" + name + "/v" + major).statusCode() == 404
                ? "nothing"
                : RunningService.json(service.desk("/desk/modules/" + name + "/v" + major))
                        .path("version")
                        .asString();
    }

    private static JsonNode history(String name) throws Exception {
        return ok(service.desk("/desk/releases/" + name));
    }

    private static HttpResponse<String> revert(String name, String version, String reason) throws Exception {
        Map<String, String> body =
                reason.isEmpty() ? Map.of("version", version) : Map.of("version", version, "reason", reason);
        return service.send(
                "PUT",
                "/desk/modules/" + name + "/v" + version.charAt(0) + "/release",
                tools.jackson.databind.json.JsonMapper.shared().writeValueAsString(body),
                service.signed());
    }

    private static HttpResponse<String> retire(String name, int major, String version) throws Exception {
        return service.send(
                "DELETE",
                "/desk/modules/" + name + "/v" + major + "/release?version=" + version + "&reason=nobody%20calls",
                "",
                service.signed());
    }

    private static Set<String> kinds(JsonNode differences) {
        return differences
                .valueStream()
                .map(difference -> difference.path("kind").asString())
                .collect(Collectors.toSet());
    }

    @Test
    void whatBreaksCallersIsRefusedUnlessSomebodySaysWhy() throws Exception {
        Pontoons first = Pontoons.first("breaks");
        ok(first.publish());
        Pontoons without = first.columns("id, name").version("1.1.0");
        JsonNode problem = refused(without.publish(), 409);
        assertThat(problem.path("code").asString()).isEqualTo("contract-broken");
        assertThat(problem.path("detail").asString())
                .isEqualTo(
                        "Nothing was changed. breaks 1.1.0 breaks what 1.0.0 promises in 1 place. Publish it as 2.0.0, which is "
                                + "served beside it, or say why callers must live with it: 'breaking', on the command line --breaking.");
        JsonNode told = problem.path("modules").get(0);
        assertThat(told.path("next").asString()).isEqualTo("2.0.0");
        assertThat(told.path("differences").get(0).path("words").asString()).isEqualTo("The field 'length_m' is gone.");
        assertThat(live("breaks", 1)).isEqualTo("1.0.0");
        ok(without.publishBreaking("the yardstick is broken"));
        JsonNode release = history("breaks").path("releases").get(0);
        assertThat(release.path("breaking").asString()).isEqualTo("the yardstick is broken");
        assertThat(kinds(release.path("differences"))).containsExactly("field-removed");
        assertThat(first.call().body()).doesNotContain("length_m");
    }

    @Test
    void theVersionTellsHowMuchChanges() throws Exception {
        Pontoons first = Pontoons.first("counts");
        ok(first.publish());
        Pontoons longer = first.columns("id, name, length_m, 1 as berths");
        JsonNode low = refused(longer.version("1.0.1").publish(), 409);
        assertThat(low.path("modules").get(0).path("code").asString()).isEqualTo("version-too-low");
        assertThat(low.path("modules").get(0).path("next").asString()).isEqualTo("1.1.0");
        assertThat(low.path("detail").asString()).endsWith("write 'version: 1.1.0' in its module.yaml.");
        ok(longer.version("1.1.0").publish());
        Pontoons same = longer.columns("id, name, length_m, 2 - 1 as berths");
        assertThat(refused(same.version("1.0.9").publish(), 409)
                        .path("modules")
                        .get(0)
                        .path("next")
                        .asString())
                .isEqualTo("1.1.1");
        JsonNode published = ok(same.version("1.1.1").publish()).path("modules").get(0);
        assertThat(kinds(published.path("differences"))).containsExactly("text-changed");
        assertThat(published.path("comparedWith").asString()).isEqualTo("1.1.0");
    }

    @Test
    void anotherMajorVersionIsServedBesideAndTouchesNothing() throws Exception {
        Pontoons first = Pontoons.first("beside");
        ok(first.publish());
        byte[] before = first.call().body().getBytes();
        Pontoons second = first.columns("id, name").version("2.0.0");
        JsonNode published = ok(second.publish()).path("modules").get(0);
        assertThat(published.path("comparedWith").asString()).isEqualTo("1.0.0");
        assertThat(kinds(published.path("differences"))).containsExactly("field-removed");
        assertThat(first.call().body().getBytes()).isEqualTo(before);
        assertThat(second.call().body()).contains("South").doesNotContain("length_m");
        assertThat(service.get("/api/beside/v1/openapi.json").body()).contains("length_m");
        assertThat(service.get("/api/beside/v2/openapi.json").body()).doesNotContain("length_m");
        // what breaks v1 once more belongs under a major version of its own
        JsonNode problem = refused(first.columns("id").version("1.1.0").publish(), 409);
        assertThat(problem.path("modules").get(0).path("next").asString()).isEqualTo("3.0.0");
    }

    @Test
    void goingBackIsRecorded() throws Exception {
        Pontoons first = Pontoons.first("back");
        ok(first.publish());
        ok(first.columns("id, name, length_m, 1 as berths").version("1.1.0").publish());
        JsonNode problem = refused(revert("back", "1.0.0", ""), 409);
        assertThat(problem.path("detail").asString()).contains("Going back to back 1.0.0 breaks what 1.1.0 promises");
        JsonNode reverted = ok(revert("back", "1.0.0", "it was slow"));
        assertThat(reverted.path("replaced").asString()).isEqualTo("1.1.0");
        assertThat(kinds(reverted.path("differences"))).containsExactly("field-removed");
        assertThat(first.call().body()).doesNotContain("berths");
        ok(revert("back", "1.1.0", ""));
        assertThat(history("back")
                        .path("changes")
                        .valueStream()
                        .map(change -> change.path("kind").asString() + " "
                                + change.path("version").asString() + " "
                                + change.path("reason").asString("-")))
                .containsExactly("revert 1.1.0 -", "revert 1.0.0 it was slow", "publish 1.1.0 -", "publish 1.0.0 -");
        refused(revert("back", "1.7.0", "no such release"), 404);
        // a pipeline that publishes an old text by accident takes nothing away
        JsonNode earlier = refused(first.publish(), 409).path("modules").get(0);
        assertThat(earlier.path("code").asString()).isEqualTo("earlier");
        assertThat(earlier.path("detail").asString())
                .endsWith("Make it live again on purpose: './tidy revert back 1.0.0'.");
    }

    @Test
    void aTextThatNoLongerFitsIsNotGoneBackTo() throws Exception {
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA, "alter table pontoon add column hue varchar(10) not null default 'red'");
        Pontoons first = Pontoons.first("unfit").columns("id, hue");
        ok(first.publish());
        ok(first.columns("id, name").version("1.1.0").publishBreaking("no more colours"));
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "alter table pontoon drop column hue");
        refused(revert("unfit", "1.0.0", "colours again"), 422);
        assertThat(live("unfit", 1)).isEqualTo("1.1.0");
        assertThat(first.call().statusCode()).isEqualTo(200);
    }

    @Test
    void whatIsRetiredIsGoneAndCanComeBack() throws Exception {
        Pontoons first = Pontoons.first("ends");
        ok(first.publish());
        ok(first.version("2.0.0").publish());
        refused(retire("ends", 1, "1.3.0"), 409);
        assertThat(live("ends", 1)).isEqualTo("1.0.0");
        ok(retire("ends", 1, "1.0.0"));
        assertThat(first.call().statusCode()).isEqualTo(410);
        assertThat(first.version("2.0.0").call().statusCode()).isEqualTo(200);
        assertThat(history("ends").path("changes").get(0).path("kind").asString())
                .isEqualTo("retire");
        refused(retire("ends", 1, "1.0.0"), 404);
        ok(revert("ends", "1.0.0", ""));
        assertThat(first.call().statusCode()).isEqualTo(200);
    }

    /** The same text twice is one release; of different texts one wins, and the others are told. */
    @Test
    void ofSeveralWhoPublishAtOnceNobodyIsOverwritten() throws Exception {
        Pontoons first = Pontoons.first("races");
        ok(first.publish());
        List<Integer> same = atOnce(4, () -> first.version("1.0.1").publish().statusCode());
        assertThat(same).containsOnly(200);
        assertThat(history("races").path("releases")).hasSize(2);
        AtomicInteger number = new AtomicInteger();
        List<HttpResponse<String>> different = atOnce(
                4, () -> first.version("1." + number.incrementAndGet() + ".0").publish());
        long won = different.stream()
                .filter(response -> response.statusCode() == 200)
                .count();
        assertThat(won).isGreaterThanOrEqualTo(1);
        assertThat(different)
                .allSatisfy(response -> assertThat(response.statusCode()).isIn(200, 409));
        assertThat(different.stream().filter(response -> response.statusCode() == 409))
                .allSatisfy(response -> assertThat(response.body())
                        .containsAnyOf("was changed by somebody else meanwhile", "version-too-low"));
        // what was published last of all is what is live
        JsonNode history = history("races");
        assertThat(live("races", 1))
                .isEqualTo(history.path("releases").get(0).path("version").asString());
        assertThat(history.path("releases")).hasSize(2 + (int) won);
    }

    /** What was promised is read from where it is kept, and not from a database that changed since. */
    @Test
    void theReferenceTellsWhatWasPromisedThoughTheDatabaseChanged() throws Exception {
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "create or replace table promise (id int primary key, note varchar(9) not null)");
        Pontoons first = Pontoons.first("kept").columns("p.id, p.note").more("fields: {}");
        String yaml = first.yaml().replace("          fields: {}\n", "");
        Map<String, String> statements = Map.of("pontoons.sql", "select id, note from promise");
        ok(service.publish(yaml, statements));
        JsonNode promised = service.json("/api/kept/v1/openapi.json").at("/components/schemas");
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "alter table promise modify note int null");
        try (RunningService other = service.beside()) {
            assertThat(RunningService.json(other.get("/api/kept/v1/openapi.json"))
                            .at("/components/schemas"))
                    .isEqualTo(promised);
        }
        JsonNode contract = ok(service.desk("/desk/releases/kept/1.0.0")).path("contract");
        assertThat(contract.at("/operations/0/answer/fields/1").toString())
                .contains("\"note\"", "\"type\":\"string\"", "\"nullable\":false");
        TestDatabase.execute(DemoDatabase.SOURCE_SCHEMA, "drop table promise");
    }

    @Test
    void aReleaseIsKeptWithWhatWasKnownOfIt() throws Exception {
        Pontoons first = Pontoons.first("known");
        ok(service.post(
                "/desk/releases",
                Map.of(
                        "note",
                        "The first one.",
                        "modules",
                        List.of(Map.of(
                                "files",
                                Map.of(
                                        "module.yaml",
                                        first.yaml(),
                                        "pontoons.sql",
                                        "select id, name, length_m from pontoon"))))));
        JsonNode release = ok(service.desk("/desk/releases/known/1.0.0"));
        assertThat(release.path("note").asString()).isEqualTo("The first one.");
        assertThat(release.at("/catalog/relations/0/columns/2/type").asString()).isEqualTo("decimal(5,2)");
        assertThat(release.at("/catalog/relations")).hasSize(1);
        assertThat(release.path("findings")
                        .valueStream()
                        .map(finding -> finding.path("code").asString()))
                .contains("open-to-everybody");
        assertThat(release.at("/text/files/module.yaml").asString()).isEqualTo(first.yaml());
        refused(service.desk("/desk/releases/known/7.0.0"), 404);
        refused(service.desk("/desk/releases/nobody"), 404);
    }

    @Test
    void twoReleasesAreComparedInWordsAndLineByLine() throws Exception {
        Pontoons first = Pontoons.first("lines");
        ok(first.publish());
        ok(first.more("sort: [name]").version("1.1.0").publish());
        JsonNode comparison = ok(service.desk("/desk/comparisons?module=lines&from=1.0.0&to=1.1.0"));
        assertThat(comparison.at("/differences/0/words").asString()).isEqualTo("Callers can sort by 'name' too.");
        assertThat(comparison.at("/files/0/file").asString()).isEqualTo("module.yaml");
        assertThat(comparison.path("files").get(0).path("pieces").toString())
                .contains("{\"now\":2,\"text\":\"version: 1.1.0\"}");
        JsonNode back = ok(service.desk("/desk/comparisons?module=lines&from=1.1.0&to=1.0.0"));
        assertThat(kinds(back.path("differences"))).containsExactly("sort-removed");
    }

    /** Whoever looks ahead changes nothing. */
    @Test
    void whatPublishingWouldMeanIsToldWithoutPublishing() throws Exception {
        Pontoons first = Pontoons.first("ahead");
        ok(first.publish());
        JsonNode module = ok(service.post(
                        "/desk/comparisons",
                        Map.of(
                                "modules",
                                List.of(Map.of(
                                        "files",
                                        Map.of(
                                                "module.yaml",
                                                first.version("1.0.1").yaml(),
                                                "pontoons.sql",
                                                "select id, name from pontoon"))))))
                .path("modules")
                .get(0);
        assertThat(module.path("breaks").asBoolean()).isTrue();
        assertThat(module.path("next").asString()).isEqualTo("2.0.0");
        assertThat(module.path("replaces").asString()).isEqualTo("1.0.0");
        assertThat(module.path("objection").asString()).contains("breaks what 1.0.0 promises in 1 place");
        assertThat(live("ahead", 1)).isEqualTo("1.0.0");
        assertThat(history("ahead").path("releases")).hasSize(1);
    }

    /** A release from before contracts were kept gets one from what is live, so that the next one can be compared with it. */
    @Test
    void anOldReleaseIsComparedTooOnceItWasLive() throws Exception {
        Pontoons first = Pontoons.first("older");
        ok(first.publish());
        TestDatabase.execute(
                "tidy_records_releases",
                "drop trigger contract_never_goes",
                "delete from release_contract where release_id = (select id from module_release where module = 'older')");
        try (RunningService other = service.beside()) {
            Until.holds(() -> RunningService.json(other.desk("/desk/releases/older/1.0.0"))
                    .has("contract"));
        }
        refused(first.columns("id").version("1.1.0").publish(), 409);
        service.context().getBean(LiveModules.class).reconcile();
    }
}
