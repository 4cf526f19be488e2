package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.demo.TestDatabase;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The commands that read a workspace: check, propose, try, rehearse, publish. */
class WorkspaceCommandsTest {

    @RegisterExtension
    static final DemoService DEMO = new DemoService();

    @TempDir
    Path folder;

    private static Ended tidy(String... words) throws Exception {
        return new Launched(DEMO.running()).tidy(words);
    }

    private Path workspaceWith(String sql) throws Exception {
        Path module = Files.createDirectories(folder.resolve("modules/quays/v1"));
        Files.writeString(
                folder.resolve("workspace.yaml"), "workspace: Test\nsources:\n  waterways: { kind: mariadb }\n");
        Files.writeString(module.resolve("module.yaml"), """
                module: quays
                version: 1.0.0
                title: Quays
                source: waterways
                public: true
                routes:
                  /quays:
                    get: { about: Quays, sql: quays.sql, answer: rows, order: [id] }
                """);
        Files.writeString(module.resolve("quays.sql"), sql);
        return folder;
    }

    @Test
    void checkSaysThatAllIsWell() throws Exception {
        Ended ended = new Launched(DEMO.running())
                .asProcess()
                .tidy(
                        "check",
                        "--folder",
                        RunningService.WORKSPACE.toAbsolutePath().toString());
        assertThat(ended).isEqualTo(new Ended(0, "3 modules, 16 operations: no errors, 2 accepted.\n", ""));
    }

    @Test
    void checkNamesFileLineColumnAndRemedy() throws Exception {
        Path workspace = workspaceWith("select id from berth\nwhere basin_id = :basin");
        Ended ended = tidy("check", "--folder", workspace.toString());
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.out())
                .contains(
                        "modules/quays/v1/quays.sql:2:18  error bind-undefined  GET /quays\n",
                        "modules/quays/v1/module.yaml:5:9  warning open-to-everybody\n",
                        "':basin' has no parameter.",
                        "where basin_id = :basin\n                     ^",
                        "remedy: Add 'basin:")
                .endsWith("1 module, 1 operation: 1 error, 1 warning.\n");
        JsonNode json = JsonMapper.shared()
                .readTree(tidy("check", "--folder", workspace.toString(), "--json")
                        .out());
        assertThat(json.path("findings").get(1).path("column").asInt()).isEqualTo(18);
    }

    @Test
    void publishSendsNothingWhileThereAreErrors() throws Exception {
        Ended ended = tidy(
                "publish",
                "--folder",
                workspaceWith("select id from berth where x = :x").toString());
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.err()).isEqualTo("tidy: Nothing was sent. 1 module, 1 operation: 1 error, 1 warning.\n");
    }

    @Test
    void publishShowsWhatTheDatabaseSays() throws Exception {
        Ended ended = tidy(
                "publish",
                "--folder",
                workspaceWith("select id, depth from berth").toString());
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.out())
                .contains("modules/quays/v1/quays.sql:1:12  error statement-refused", "Unknown column 'depth'");
        assertThat(ended.err()).startsWith("tidy: Nothing was published: 1 finding");
    }

    @Test
    void publishThenCall() throws Exception {
        Path workspace = workspaceWith("select id, berth_no, nightly_rate from berth where id < 4");
        Ended published = tidy("publish", "--folder", workspace.toString());
        assertThat(published.code()).as(published.err()).isZero();
        assertThat(published.out()).contains("published    quays/v1 1.0.0 at /api/quays/v1");
        Ended called = tidy("call", "GET", "quays/v1/quays", "limit=2");
        assertThat(called.out())
                .contains(
                        "id   berth_no   nightly_rate\n",
                        " 1   A01  ",
                        "2 rows, ",
                        "Next page: ./tidy call GET quays/v1/quays limit=2 after=");
        String after = called.out().replaceAll("(?s).*after=", "").strip();
        assertThat(tidy("call", "GET", "quays/v1/quays", "limit=2", "after=" + after)
                        .out())
                .contains("\n 3   A03 ")
                .contains("1 row, ")
                .doesNotContain("Next page");
        assertThat(called.out()).containsPattern("\\d+\\.\\d\\d\\n");
    }

    @Test
    void checkComparesWithTheDatabasesToo() throws Exception {
        Path workspace = workspaceWith("select id, length_m from berth");
        String folder = workspace.toString();
        Files.writeString(
                workspace.resolve("modules/quays/v1/module.yaml"),
                Files.readString(workspace.resolve("modules/quays/v1/module.yaml"))
                        .replace("order: [id]", "order: [length_m]"));
        assertThat(tidy("check", "--folder", folder).out()).doesNotContain("order-not-total");
        Ended found = tidy("check", "--folder", folder, "--with-sources");
        assertThat(found.code()).isZero();
        assertThat(found.out())
                .contains("Several rows may share the same length_m")
                .endsWith("1 module, 1 operation: no errors, 2 warnings.\n");
        assertThat(tidy("check", "--folder", folder, "--with-sources", "--fail-on", "warning")
                        .code())
                .isEqualTo(1);
        JsonNode sarif = JsonMapper.shared()
                .readTree(tidy("check", "--folder", folder, "--with-sources", "--sarif")
                        .out());
        assertThat(sarif.path("version").asString()).isEqualTo("2.1.0");
        JsonNode result = sarif.at("/runs/0/results/1");
        assertThat(result.path("ruleId").asString()).isEqualTo("order-not-total");
        assertThat(result.path("level").asString()).isEqualTo("warning");
        assertThat(result.at("/locations/0/physicalLocation/artifactLocation/uri")
                        .asString())
                .isEqualTo("modules/quays/v1/module.yaml");
        assertThat(result.at("/locations/0/physicalLocation/region/startLine").asInt())
                .isEqualTo(8);
        assertThat(sarif.at("/runs/0/tool/driver/rules").size()).isEqualTo(2);
    }

    @Test
    void explainTellsWhatAFindingMeans() throws Exception {
        assertThat(tidy("explain", "order-not-total").out())
                .startsWith("order-not-total\n\n*warning* - Rows may share");
        assertThat(tidy("explain").out()).contains("select-star", "warning");
        assertThat(tidy("explain", "order-not-totl").err()).contains("Did you mean 'order-not-total'?");
    }

    @Test
    void rehearseShowsWhatAChangeWouldDoAndKeepsNothing() throws Exception {
        String folder = RunningService.WORKSPACE.toAbsolutePath().toString();
        String before = TestDatabase.column("select group_concat(id, status) from booking")
                .getFirst();
        Ended bulk = tidy("rehearse", "moorings/v1", "DELETE", "/bookings", "status=expired", "--folder", folder);
        assertThat(bulk.code()).as(bulk.out() + bulk.err()).isZero();
        assertThat(bulk.out())
                .contains(
                        "Answer: 200",
                        "\"changed\"",
                        " deleted",
                        "gone",
                        "20 of ",
                        "Rolled back. Its locks were held for");
        Ended patch = tidy(
                "rehearse",
                "moorings/v1",
                "PATCH",
                "/bookings/12",
                "note=Dog on board",
                "If-Match=*",
                "--live",
                "--watch",
                "select note from booking where id = 12");
        assertThat(patch.out())
                .containsPattern("12 +note +\\S.* +Dog on board")
                .containsPattern("12 +version +1 +2")
                .containsPattern("after +Dog on board");
        Ended refused = tidy("rehearse", "moorings/v1", "PATCH", "/bookings/12", "note=x", "--live");
        assertThat(refused.code()).isEqualTo(1);
        assertThat(refused.out()).contains("Answer: 428", "It was refused, so nothing would change.");
        assertThat(tidy("rehearse", "moorings/v1", "GET", "/basins", "--live").out())
                .contains("It changes nothing.");
        assertThat(tidy("rehearse", "mooring/v1", "GET", "/basins", "--live").err())
                .contains("No module of that name is live");
        assertThat(tidy("try", "moorings/v1", "DELETE", "/bookings/12", "--folder", folder)
                        .out())
                .contains("Answer: 204", "cancelled", "Rolled back.");
        JsonNode json = JsonMapper.shared()
                .readTree(tidy("rehearse", "moorings/v1", "DELETE", "/bookings/12", "--live", "--json")
                        .out());
        assertThat(json.at("/rehearsal/tables/0/table").asString()).isEqualTo("booking");
        assertThat(TestDatabase.column("select group_concat(id, status) from booking"))
                .containsExactly(before);
    }

    @Test
    void tryRunsTheWorkspacesTextUnpublished() throws Exception {
        String folder = RunningService.WORKSPACE.toAbsolutePath().toString();
        Ended tried = tidy(
                "try",
                "moorings/v1",
                "GET",
                "/berths",
                "from=2031-05-01",
                "until=2031-05-04",
                "limit=2",
                "--folder",
                folder);
        assertThat(tried.code()).isZero();
        assertThat(tried.out())
                .contains(
                        "/* moorings/v1 GET /berths */ select * from (",
                        "  until  date\n",
                        "k: the rows with one value by the index booking_by_berth",
                        "Answer: 200 in ",
                        "Alder Basin")
                .doesNotContain("2031-05-01");
        Ended shown = tidy("try", "moorings/v1", "GET", "/berths/3", "--show-values", "--folder", folder);
        assertThat(shown.out()).contains("berthId  integer  3", "\"berth_no\"");
        Ended bad = tidy("try", "moorings/v1", "GET", "/berths", "--folder", folder);
        assertThat(bad.code()).isEqualTo(1);
        assertThat(bad.out()).contains("Answer: 400", "'from' is required");
        assertThat(tidy("try", "moorings/v1", "GET", "/piers", "--folder", folder)
                        .err())
                .contains("moorings/v1 has no operation GET /piers");
        assertThat(tidy("try", "mooring/v1", "GET", "/", "--folder", folder).err())
                .contains("Did you mean 'moorings/v1'?");
    }

    @Test
    void proposeWritesWhatIsLacking() throws Exception {
        Path workspace = workspaceWith("select id, berth_no from berth where length_m >= :least");
        Ended proposed = tidy("propose", "--folder", workspace.toString());
        assertThat(proposed.out())
                .contains(
                        ":least meets berth.length_m", "least: { in: query, type: number, required: true }", "--write");
        assertThat(tidy("propose", "--folder", workspace.toString(), "--write").out())
                .contains("1 written.");
        assertThat(Files.readString(workspace.resolve("modules/quays/v1/module.yaml")))
                .contains("order: [id], parameters: { least: { in: query, type: number, required: true } } }");
        assertThat(tidy("check", "--folder", workspace.toString()).code()).isZero();
        assertThat(tidy("propose", "--folder", workspace.toString()).out())
                .isEqualTo("Nothing is lacking that the catalog could tell.\n");
    }
}
