package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The command line as a process, started as people start it. */
class CommandLineTest {

    private static final Path LAUNCHER = Path.of("..", "tidy").toAbsolutePath().normalize();

    private static RunningService service;

    @TempDir
    Path folder;

    private record Ended(int code, String out, String err) {}

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.fresh();
        service.publishDemo();
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static Ended tidy(String... words) throws Exception {
        List<String> command = new ArrayList<>(List.of(LAUNCHER.toString()));
        command.addAll(List.of(words));
        ProcessBuilder builder = new ProcessBuilder(command);
        builder.environment().put("TIDY_BUILT", "1");
        builder.environment().put("TIDY_URL", service.address());
        builder.environment().put("TIDY_HOME", service.home().toString());
        Path out = Files.createTempFile("tidy", ".out");
        Path err = Files.createTempFile("tidy", ".err");
        Process process =
                builder.redirectOutput(out.toFile()).redirectError(err.toFile()).start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        Ended ended = new Ended(
                process.exitValue(),
                Files.readString(out, StandardCharsets.UTF_8),
                Files.readString(err, StandardCharsets.UTF_8));
        Files.delete(out);
        Files.delete(err);
        return ended;
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
        Ended ended = tidy("check", RunningService.WORKSPACE.toAbsolutePath().toString());
        assertThat(ended).isEqualTo(new Ended(0, "3 modules, 15 operations: no errors, 2 accepted.\n", ""));
    }

    @Test
    void checkNamesFileLineColumnAndRemedy() throws Exception {
        Path workspace = workspaceWith("select id from berth\nwhere basin_id = :basin");
        Ended ended = tidy("check", workspace.toString());
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.out())
                .contains(
                        "modules/quays/v1/quays.sql:2:18  error bind-undefined  GET /quays\n",
                        "modules/quays/v1/module.yaml:1:9  warning open-to-everybody\n",
                        "':basin' has no parameter.",
                        "where basin_id = :basin\n                     ^",
                        "remedy: Add 'basin:")
                .endsWith("1 module, 1 operation: 1 error, 1 warning.\n");
        JsonNode json = JsonMapper.shared()
                .readTree(tidy("check", workspace.toString(), "--json").out());
        assertThat(json.path("findings").get(1).path("column").asInt()).isEqualTo(18);
    }

    @Test
    void publishSendsNothingWhileThereAreErrors() throws Exception {
        Ended ended = tidy(
                "publish", workspaceWith("select id from berth where x = :x").toString());
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.err()).isEqualTo("tidy: Nothing was published. 1 module, 1 operation: 1 error, 1 warning.\n");
    }

    @Test
    void publishShowsWhatTheDatabaseSays() throws Exception {
        Ended ended =
                tidy("publish", workspaceWith("select id, depth from berth").toString());
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.out())
                .contains("modules/quays/v1/quays.sql:1:12  error statement-refused", "Unknown column 'depth'");
        assertThat(ended.err()).startsWith("tidy: Nothing was published: 1 finding");
    }

    @Test
    void publishThenCall() throws Exception {
        Path workspace = workspaceWith("select id, berth_no, nightly_rate from berth where id < 4");
        Ended published = tidy("publish", workspace.toString());
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
    void modulesListsWhatIsLive() throws Exception {
        assertThat(tidy("modules").out())
                .contains(
                        "Module        Version   Access",
                        "moorings/v1   1.1.0     open",
                        "tolls/v1      1.0.0     closed",
                        "GET /berths/{berthId}");
        JsonNode json = JsonMapper.shared().readTree(tidy("modules", "--json").out());
        assertThat(json.path("modules").size()).isGreaterThanOrEqualTo(3);
    }

    @Test
    void callShowsARowAndTheRawBody() throws Exception {
        assertThat(tidy("call", "get", "/api/moorings/v1/berths/17").out()).contains("Field", "berth_no");
        assertThat(tidy("call", "GET", "moorings/v1/berths/17", "--json").out()).startsWith("{\"id\":17,");
        assertThat(tidy("call", "GET", "tolls/v1/vessels/MW-10000/locks/3/toll").out())
                .contains("value");
    }

    @Test
    void aBodyIsSentAlong() throws Exception {
        String search = "{\"vessel\": {\"length_m\": 12}, \"basins\": [\"Heron Pool\"]}";
        Ended called = tidy("call", "POST", "moorings/v1/berths/search", "limit=2", "--body", search);
        assertThat(called.out())
                .contains("Heron Pool", "2 rows")
                .doesNotContain("Alder")
                .endsWith(" --body '" + search + "'\n");
        Path file = Files.writeString(folder.resolve("search.json"), search);
        assertThat(tidy("call", "POST", "moorings/v1/berths/search", "limit=2", "--body-from", file.toString())
                        .out())
                .contains("Heron Pool");
        assertThat(tidy("call", "POST", "moorings/v1/berths/search", "--form", "a=b")
                        .err())
                .contains("415", "This call reads application/json");
        assertThat(tidy("call", "POST", "moorings/v1/berths/search", "--body", "{}")
                        .err())
                .contains("'/vessel/length_m' is required; for example 11.5.");
        assertThat(tidy("call", "POST", "moorings/v1/berths/search", "--body-from", "no-such-file")
                        .err())
                .contains("The file no-such-file cannot be read.");
    }

    @Test
    void aProblemIsOneLine() throws Exception {
        Ended ended = tidy("call", "GET", "moorings/v1/berths", "from=soon");
        assertThat(ended)
                .isEqualTo(new Ended(
                        1,
                        "",
                        "tidy: 400 Some inputs need mending: 'from' must be a date such as 2031-05-01."
                                + " 'until' is required; for example 2031-05-04.\n"));
    }

    @Test
    void referencePrintsYamlOrJson() throws Exception {
        assertThat(tidy("reference", "moorings/v1").out()).startsWith("openapi: 3.1.0\n");
        assertThat(JsonMapper.shared()
                        .readTree(tidy("reference", "moorings/v1", "--json").out())
                        .path("info")
                        .path("title")
                        .asString())
                .isEqualTo("Berths and bookings");
    }

    @Test
    void sourcesAreListedTestedAndBrowsed() throws Exception {
        Ended list = tidy("source", "list");
        assertThat(list.out()).contains("waterways", "may write", "0 of 10", "The demo's own data");
        Ended test = tidy("source", "test", "waterways");
        assertThat(test.code()).isZero();
        assertThat(test.out()).contains("passed  name", "passed  privilege", "The source can be used.");
        assertThat(tidy("source", "test", "waterway").err())
                .contains("There is no source 'waterway'. Did you mean 'waterways'?");
        Ended all = tidy("source", "browse", "waterways", "--find", "passed_at");
        assertThat(all.out()).contains("lock_passage", "passage_log", "view").doesNotContain("skipper");
        Ended berth = tidy("source", "browse", "waterways", "berth");
        assertThat(berth.out())
                .contains("decimal(5,2)", "counted up", "primary key (id)", "(basin_id) stands in basin (id)");
        assertThat(tidy("source", "browse", "waterways", "toll_due").out())
                .contains("a function that returns decimal(8,2), reads data", "select toll_due(:theVessel, :theLock)");
        assertThat(tidy("source", "browse", "waterways", "closure", "--statement")
                        .out())
                .isEqualTo("select id, lock_id, closed_from, closed_to, reason\nfrom closure\nwhere id = :id\n");
        assertThat(tidy("source", "browse", "waterways", "harbour").err()).contains("holds no table, view or routine");
        assertThat(tidy("source", "reload").out()).isEqualTo("Nothing has changed.\n");
    }

    @Test
    void checkComparesWithTheDatabasesToo() throws Exception {
        Path workspace = workspaceWith("select id, length_m from berth");
        String folder = workspace.toString();
        Files.writeString(
                workspace.resolve("modules/quays/v1/module.yaml"),
                Files.readString(workspace.resolve("modules/quays/v1/module.yaml"))
                        .replace("order: [id]", "order: [length_m]"));
        assertThat(tidy("check", folder).out()).doesNotContain("order-not-total");
        Ended found = tidy("check", folder, "--with-sources");
        assertThat(found.code()).isZero();
        assertThat(found.out())
                .contains("Several rows may share the same length_m")
                .endsWith("1 module, 1 operation: no errors, 2 warnings.\n");
        assertThat(tidy("check", folder, "--with-sources", "--fail-on", "warning")
                        .code())
                .isEqualTo(1);
        JsonNode sarif = JsonMapper.shared()
                .readTree(tidy("check", folder, "--with-sources", "--sarif").out());
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
    void callSendsHeaderFields() throws Exception {
        String[] words = {"call", "PATCH", "moorings/v1/bookings/13", "--body", "{\"note\":\"By hand\"}"};
        assertThat(tidy(words).err()).contains("428 Say which state you change");
        String[] any = java.util.Arrays.copyOf(words, 7);
        any[5] = "--header";
        any[6] = "If-Match=*";
        assertThat(tidy(any).out()).containsPattern("note +By hand");
        any[6] = "If Match=*";
        assertThat(tidy(any).err()).contains("'If Match=*' is no header field");
        any[6] = "Host=elsewhere";
        assertThat(tidy(any).err()).contains("cannot be sent");
        assertThat(tidy("call", "DELETE", "moorings/v1/bookings", "status=expired", "preview=count")
                        .out())
                .containsPattern("matching +\\d+");
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
        Ended proposed = tidy("propose", workspace.toString());
        assertThat(proposed.out())
                .contains(
                        ":least meets berth.length_m", "least: { in: query, type: number, required: true }", "--write");
        // an operation written on one line has no place to write to
        assertThat(tidy("propose", workspace.toString(), "--write").out()).contains("0 written.");
        Path yaml = workspace.resolve("modules/quays/v1/module.yaml");
        Files.writeString(
                yaml,
                Files.readString(yaml)
                        .replace("get: { about: Quays, sql: quays.sql, answer: rows, order: [id] }", """
                get:
                      about: Quays
                      sql: quays.sql
                      answer: rows
                      order: [id]"""));
        assertThat(tidy("propose", workspace.toString(), "--write").out()).contains("1 written.");
        assertThat(tidy("check", workspace.toString()).code()).isZero();
        assertThat(tidy("propose", workspace.toString()).out())
                .isEqualTo("Nothing is lacking that the catalog could tell.\n");
    }

    @Test
    void consolePrintsALinkThatSignsIn() throws Exception {
        assertThat(tidy("console").out())
                .startsWith(service.address() + "/sign-in#")
                .hasSizeGreaterThan(50);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    frobnicate                                | 2 | Type './tidy --help' for an example.
                    check                                     | 2 | Missing required parameter: 'FOLDER'. Type './tidy check --help'
                    check no-such-folder                      | 1 | There is no folder no-such-folder
                    call GET moorings                         | 2 | 'moorings' is no address; write it as moorings/v1/berths.
                    call GET moorings/v1/berths from          | 2 | 'from' is no parameter; write it as name=value.
                    reference moorings                        | 2 | 'moorings' is no module
                    reference boats/v1                        | 1 | 404 No such module
                    modules --service http://127.0.0.1:1      | 3 | No service answers at http://127.0.0.1:1
                    modules --service nonsense                | 2 | The service's address must be an http URL
                    modules --home /nowhere                   | 1 | The administrator's token cannot be read in
                    demo --frobnicate                         | 2 | demo has no option '--frobnicate'
                    """)
    void mistakesAreOneLineWithAnExitCode(String words, int code, String sentence) throws Exception {
        Ended ended = tidy(words.split(" "));
        assertThat(ended.code()).isEqualTo(code);
        assertThat(ended.err()).startsWith("tidy: ").contains(sentence).hasLineCount(1);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "check",
                "explain",
                "propose",
                "try",
                "publish",
                "modules",
                "call",
                "source",
                "source list",
                "source test",
                "source browse",
                "source reload",
                "reference",
                "console"
            })
    void everyHelpHasAnExample(String command) throws Exception {
        Ended ended = tidy((command + " --help").split(" "));
        assertThat(ended.code()).isZero();
        assertThat(ended.out()).contains("Example").contains("  ./tidy " + command);
    }
}
