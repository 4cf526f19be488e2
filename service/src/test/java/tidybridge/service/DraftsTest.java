package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Together.atOnce;

import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Several people work on one text: whoever is second is told, and nothing is overwritten. */
class DraftsTest {

    private static final String PASSWORD = "seven herons on a lock beam";
    private static final String SQL = "-- é, by hand\r\nselect id, berth_no\r\nfrom berth -- no end";

    private static RunningService service;
    private static Callers callers;

    @TempDir
    Path folder;

    private String name = "";

    @BeforeAll
    static void start() {
        service = SharedService.get();
        callers = new Callers(service);
    }

    @BeforeEach
    void choose() {
        name = Callers.fresh("drafted");
    }

    private String at() {
        return "/desk/drafts/" + name + "/v1";
    }

    private static HttpResponse<String> send(String method, String path, Object body, String... headers)
            throws Exception {
        return service.send(
                method,
                path,
                body == null ? "" : JsonMapper.shared().writeValueAsString(body),
                service.signed(headers));
    }

    private static Map<String, Object> text(String sql) {
        return Map.of("folder", "modules/x", "files", Map.of("module.yaml", "not: [finished", "a.sql", sql));
    }

    private int saved(String sql, String... headers) throws Exception {
        HttpResponse<String> response = send("PUT", at(), text(sql), headers);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        int revision = RunningService.json(response).path("revision").asInt();
        assertThat(response.headers().firstValue("ETag")).hasValue("\"" + revision + "\"");
        return revision;
    }

    private static String refused(HttpResponse<String> response, int status) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(status);
        return RunningService.json(response).path("detail").asString();
    }

    @Test
    void eachChangeNamesWhatItsAuthorHasSeen() throws Exception {
        assertThat(refused(send("PUT", at(), text("a")), 428)).contains("If-None-Match: *");
        assertThat(refused(send("PUT", at(), text("a"), "If-Match", "\"1\""), 412))
                .contains("any more");
        assertThat(saved("a", "If-None-Match", "*")).isEqualTo(1);
        assertThat(refused(send("PUT", at(), text("b"), "If-None-Match", "*"), 412))
                .contains("changed the draft of " + name + "/v1", "revision 1");
        assertThat(saved("b", "If-Match", "\"1\"")).isEqualTo(2);
        assertThat(saved("b", "If-Match", "\"2\""))
                .as("the same text is no change")
                .isEqualTo(2);
        assertThat(refused(send("PUT", at(), text("c"), "If-Match", "\"1\""), 412))
                .contains("revision 2");
        assertThat(refused(send("PUT", at(), text("c"), "If-Match", "W/\"2\""), 428))
                .contains("ETag");
        assertThat(refused(send("PUT", "/desk/drafts/No_Name/v1", text("c"), "If-None-Match", "*"), 400))
                .contains("lower-case");
        assertThat(refused(send("PUT", at(), Map.of("files", Map.of()), "If-Match", "\"2\""), 400))
                .contains("module.yaml");
        assertThat(RunningService.json(service.desk(at()))
                        .path("text")
                        .path("files")
                        .path("a.sql")
                        .asString())
                .isEqualTo("b");
        assertThat(service.get("/api/" + name + "/v1/a").statusCode())
                .as("a draft is not live")
                .isEqualTo(404);
    }

    @Test
    void ofManyWhoChangeItAtOnceOneDoes() throws Exception {
        saved("first", "If-None-Match", "*");
        List<Integer> codes = atOnce(
                8,
                () -> send("PUT", at(), text("at " + Thread.currentThread().threadId()), "If-Match", "\"1\"")
                        .statusCode());
        assertThat(codes).containsOnlyOnce(200).contains(412);
        assertThat(RunningService.json(service.desk(at() + "/revisions")).path("drafts"))
                .hasSize(2);
    }

    @Test
    void whatItWasIsKeptAndComesBack() throws Exception {
        saved("one", "If-None-Match", "*");
        for (int i = 1; i < 105; i++) {
            saved("text " + i, "If-Match", "\"" + i + "\"");
        }
        JsonNode revisions =
                RunningService.json(service.desk(at() + "/revisions")).path("drafts");
        assertThat(revisions).hasSize(100);
        assertThat(revisions.path(0).path("revision").asInt()).isEqualTo(105);
        assertThat(refused(service.desk(at() + "/revisions/5"), 404)).contains("newest 100");
        assertThat(RunningService.json(service.desk(at() + "/revisions/50"))
                        .path("text")
                        .path("files")
                        .path("a.sql")
                        .asString())
                .isEqualTo("text 49");
        assertThat(refused(send("POST", at() + "/restored", Map.of("revision", 50), "If-Match", "\"104\""), 412))
                .contains("revision 105");
        assertThat(refused(send("POST", at() + "/restored", Map.of("revision", 5), "If-Match", "\"105\""), 404))
                .contains("not kept");
        JsonNode restored =
                RunningService.json(send("POST", at() + "/restored", Map.of("revision", 50), "If-Match", "\"105\""));
        assertThat(restored.path("revision").asInt()).isEqualTo(106);
        assertThat(restored.path("restoredFrom").asInt()).isEqualTo(50);
        assertThat(refused(send("DELETE", at(), null, "If-Match", "\"105\""), 412))
                .contains("revision 106");
        assertThat(send("DELETE", at(), null, "If-Match", "\"106\"").statusCode())
                .isEqualTo(204);
        assertThat(service.desk(at()).statusCode()).isEqualTo(404);
        assertThat(saved("again", "If-None-Match", "*")).isEqualTo(1);
    }

    @Test
    void aTextComesTogetherWithWhatOthersMade() throws Exception {
        saved("one\ntwo\nthree\n", "If-None-Match", "*");
        saved("one\ntwo\ntheirs\n", "If-Match", "\"1\"");
        JsonNode merge = RunningService.json(
                send("POST", at() + "/merged", Map.of("revision", 1, "text", text("mine\ntwo\nthree\n"))));
        assertThat(merge.path("revision").asInt()).isEqualTo(2);
        assertThat(merge.path("text").path("files").path("a.sql").asString()).isEqualTo("mine\ntwo\ntheirs\n");
        assertThat(merge.path("unsettled")).isEmpty();
        assertThat(merge.path("theirs").path(0).path("file").asString()).isEqualTo("a.sql");

        JsonNode both = RunningService.json(
                send("POST", at() + "/merged", Map.of("revision", 1, "text", text("one\ntwo\nmine\n"))));
        assertThat(both.path("unsettled").path(0).asString()).isEqualTo("a.sql");
        assertThat(both.path("text").path("files").path("a.sql").asString())
                .contains("theirs", "mine", "to be settled");
        assertThat(RunningService.json(service.desk(at())).path("revision").asInt())
                .as("nothing is saved")
                .isEqualTo(2);

        assertThat(refused(send("POST", at() + "/merged", Map.of("revision", 9, "text", text("x"))), 404))
                .contains("not kept");
        assertThat(refused(send("POST", at() + "/merged", Map.of("revision", 1)), 400))
                .contains("'text'");
    }

    /** A draft takes 32 million bytes at most, whatever it is made of; the newest text is there in any case. */
    @Test
    void longTextsAreKeptLessOften() throws Exception {
        String ship = "\ud83d\udea2".repeat(1_500_000);
        saved("0" + ship, "If-None-Match", "*");
        for (int i = 1; i < 9; i++) {
            saved(i + ship, "If-Match", "\"" + i + "\"");
        }
        assertThat(RunningService.json(service.desk(at() + "/revisions")).path("drafts"))
                .hasSize(5);
        assertThat(RunningService.json(service.desk(at()))
                        .path("text")
                        .path("files")
                        .path("a.sql")
                        .asString())
                .isEqualTo("8" + ship);
        HttpResponse<String> longer = send("PUT", at(), text("x".repeat(9_000_000)), "If-Match", "\"9\"");
        assertThat(longer.statusCode()).isEqualTo(413);
    }

    private Path workspace(String where) throws Exception {
        Path at = folder.resolve(where);
        Files.createDirectories(at);
        Files.writeString(at.resolve("workspace.yaml"), "workspace: Test\nsources:\n  waterways: { kind: mariadb }\n");
        return at;
    }

    private Path module(Path workspace) {
        return workspace.resolve("modules/" + name + "/v1");
    }

    private void write(Path workspace, String sql, String title) throws Exception {
        Path module = Files.createDirectories(module(workspace));
        Files.writeString(module.resolve("berths.sql"), sql);
        Files.writeString(module.resolve("module.yaml"), """
                # kept as it is
                module: %s
                version: 1.0.0
                title: %s   # a comment
                source: waterways
                public: true
                accept: { open-to-everybody: a test }

                routes:
                  /berths:
                    get: { about: Berths, sql: berths.sql, answer: rows, order: [id] }
                """.formatted(name, title));
    }

    /** Two people with a folder each, on the command line. */
    @Test
    void twoFoldersComeTogether() throws Exception {
        Launched mara = new Launched(service);
        String other = callers.person(PASSWORD, "integration-developer");
        Launched joss = new Launched(service, folder.resolve("sign-ins.json"));
        assertThat(joss.tidyReading(PASSWORD + "\n", "sign-in", other, "--service", service.address())
                        .code())
                .isZero();
        Path hers = workspace("hers");
        Path his = workspace("his");
        write(hers, SQL, "Berths");
        Ended pushed = mara.tidy("push", "--folder", hers.toString());
        assertThat(pushed.out())
                .as(pushed.err())
                .isEqualTo(
                        "pushed      " + name + "/v1 revision 1, " + service.address() + "/drafts/" + name + "/v1\n");
        assertThat(mara.tidy("push", "--folder", hers.toString()).out()).startsWith("unchanged   ");

        Ended pulled = joss.tidy("pull", name + "/v1", "--folder", his.toString());
        assertThat(pulled.code()).as(pulled.err()).isZero();
        assertThat(Files.readAllBytes(module(his).resolve("berths.sql")))
                .as("byte for byte")
                .isEqualTo(SQL.getBytes(StandardCharsets.UTF_8));
        assertThat(Files.readAllBytes(module(his).resolve("module.yaml")))
                .isEqualTo(Files.readAllBytes(module(hers).resolve("module.yaml")));

        // he is first, and she is told
        write(his, SQL.replace("berth_no", "berth_no, width_m"), "Berths");
        assertThat(joss.tidy("push", "--folder", his.toString()).out()).contains("revision 2");
        write(hers, SQL, "Berths and prices");
        Ended late = mara.tidy("push", "--folder", hers.toString());
        assertThat(late.code()).isEqualTo(1);
        assertThat(late.out())
                .contains(
                        "not pushed  " + name + "/v1 revision 2 is by " + other,
                        "+ title: Berths and prices",
                        "berths.sql");
        assertThat(late.err()).contains("--merge' brings both together");
        assertThat(mara.tidy("pull", name + "/v1", "--folder", hers.toString()).err())
                .contains("--merge brings both together, --over throws the folder's away");
        assertThat(mara.tidy("pull", name + "/v1", "--folder", hers.toString(), "--merge")
                        .code())
                .isZero();
        assertThat(Files.readString(module(hers).resolve("module.yaml")))
                .contains("title: Berths and prices   # a comment");
        assertThat(Files.readString(module(hers).resolve("berths.sql"))).contains("berth_no, width_m\r\n");
        write(hers, SQL.replace("berth_no", "berth_no, width_m as width"), "Berths and prices");
        assertThat(mara.tidy("push", "--folder", hers.toString()).out()).contains("revision 3");

        // both change one line
        write(his, SQL.replace("berth_no", "berth_no, length_m"), "Berths");
        Ended merged = joss.tidy("pull", name + "/v1", "--folder", his.toString(), "--merge");
        assertThat(merged.code()).isEqualTo(1);
        assertThat(merged.err()).contains("Both changed the same lines in berths.sql");
        assertThat(joss.tidy("push", "--folder", his.toString()).err()).contains("lines that nobody has settled");
        write(his, SQL, "Berths and prices");
        assertThat(joss.tidy("push", "--folder", his.toString()).out()).contains("revision 4");
        assertThat(joss.tidy("drafts", "history", name + "/v1").out()).contains(other, "4 ", "1 ");
        assertThat(joss.tidy("drafts", "restore", name + "/v1", "2").out())
                .isEqualTo(name + "/v1 is at revision 5, as revision 2 was.\n");
        assertThat(joss.tidy("drafts", "list").out()).contains(name + "/v1");

        // what is live comes back where there is no draft, and a draft is compared with it
        assertThat(mara.tidy("publish", "--folder", hers.toString()).code()).isZero();
        Ended compared = mara.tidy("compare", name + "/v1", name + "/v1/draft", "--brief");
        assertThat(compared.out()).as(compared.err()).startsWith(name + "  1.0.0 -> 1.0.0 (draft, revision 5)");
        assertThat(mara.tidy("drafts", "drop", name + "/v1").out())
                .isEqualTo("The draft of " + name + "/v1 is gone.\n");
        Path third = workspace("third");
        assertThat(mara.tidy("pull", name + "/v1", "--folder", third.toString()).out())
                .contains("as it is live, since there is no draft of it");
        assertThat(Files.readAllBytes(module(third).resolve("module.yaml")))
                .isEqualTo(Files.readAllBytes(module(hers).resolve("module.yaml")));
    }

    /** A draft is text of somebody else's; its file names lead nowhere else. */
    @Test
    void aDraftIsWrittenIntoItsFolderOnly() throws Exception {
        Path workspace = workspace("safe");
        Map<String, Object> strange = Map.of(
                "folder", "../../elsewhere", "files", Map.of("module.yaml", "a: 1", "../escaped.sql", "select 1"));
        assertThat(send("PUT", at(), strange, "If-None-Match", "*").statusCode())
                .isEqualTo(200);
        Ended pulled = new Launched(service).tidy("pull", name + "/v1", "--folder", workspace.toString());
        assertThat(pulled.code()).isEqualTo(1);
        assertThat(pulled.err()).contains("'../escaped.sql', which is not written");
        assertThat(workspace.resolve("modules")).doesNotExist();
    }
}
