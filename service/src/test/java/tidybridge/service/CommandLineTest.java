package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The commands that speak to a running DEMO.running(). */
class CommandLineTest {

    @RegisterExtension
    static final DemoService DEMO = new DemoService();

    @TempDir
    Path folder;

    private static Ended tidy(String... words) throws Exception {
        return new Launched(DEMO.running()).tidy(words);
    }

    @Test
    void modulesListsWhatIsLive() throws Exception {
        assertThat(new Launched(DEMO.running()).asProcess().tidy("modules").out())
                .contains(
                        "Module        Version   Access",
                        "moorings/v1   1.2.0     partly open",
                        "tolls/v1      1.1.0     protected",
                        "tolls.read",
                        "moorings.book",
                        "GET /berths/{berthId}");
        JsonNode json = JsonMapper.shared().readTree(tidy("modules", "--json").out());
        assertThat(json.path("modules").size()).isGreaterThanOrEqualTo(3);
    }

    @Test
    void aFileIsPrintedByteForByte() throws Exception {
        String yaml = """
                module: files
                version: 1.0.0
                title: Files
                source: waterways
                public: true
                routes:
                  /one:
                    get:
                      about: A file
                      sql: one.sql
                      answer: file
                      file: { content: content, type: image/png }
                """;
        assertThat(DEMO.running()
                        .publish(yaml, java.util.Map.of("one.sql", "select x'89504e470d0a1aff00c3' as content"))
                        .statusCode())
                .isEqualTo(200);
        assertThat(new Launched(DEMO.running()).printed("call", "GET", "files/v1/one", "--json"))
                .isEqualTo(java.util.HexFormat.of().parseHex("89504e470d0a1aff00c3"));
        assertThat(tidy("call", "GET", "files/v1/one").out()).startsWith("10 bytes of image/png");
    }

    @Test
    void totalsAreToldBehindTheRows() throws Exception {
        assertThat(tidy("call", "GET", "passages/v1/passages", "limit=3", "total=exact")
                        .out())
                .containsPattern("3 rows of [0-9,]+, \\d+ ms");
        assertThat(tidy("call", "GET", "passages/v1/passages", "limit=3", "total=estimate")
                        .out())
                .contains("3 rows of about ");
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
    void callSendsHeaderFields() throws Exception {
        String[] words = {"call", "PATCH", "moorings/v1/bookings/13", "--body", "{\"note\":\"By hand\"}"};
        assertThat(new Launched(DEMO.running()).asProcess().tidy(words).err())
                .contains("428 Say which state you change");
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
    void consolePrintsALinkThatSignsIn() throws Exception {
        assertThat(tidy("console").out())
                .startsWith(DEMO.running().address() + "/sign-in#")
                .hasSizeGreaterThan(50);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    frobnicate                                | 2 | Type './tidy --help' for an example.
                    check no-such-folder                      | 2 | 'no-such-folder' is not understood here; a folder is given as --folder no-such-folder. Type './tidy check --help'
                    modules all                               | 2 | 'all' is not understood here. Type './tidy modules --help'
                    check --folder                            | 2 | Missing required parameter for option '--folder' (FOLDER). Type './tidy check --help'
                    check --folder no-such-folder             | 1 | There is no folder no-such-folder
                    call GET moorings                         | 2 | 'moorings' is no address; write it as moorings/v1/berths.
                    call GET moorings/v1/berths from          | 2 | 'from' is no parameter; write it as name=value.
                    reference moorings                        | 2 | 'moorings' is no module
                    reference boats/v1                        | 1 | 404 No such module
                    modules --service http://127.0.0.1:1      | 3 | No service answers at http://127.0.0.1:1
                    modules --service nonsense                | 2 | The service's address must be an http URL
                    modules --home /nowhere                   | 1 | no administrator's token can be read
                    demo --frobnicate                         | 2 | demo has no option '--frobnicate'
                    """)
    void mistakesAreOneLineWithAnExitCode(String words, int code, String sentence) throws Exception {
        Launched here = new Launched(DEMO.running());
        // the launcher's own commands need it, and one of the others shows that it hands on what they say
        boolean started = words.startsWith("demo") || code == 3;
        Ended ended = (started ? here.asProcess() : here).tidy(words.split(" "));
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
