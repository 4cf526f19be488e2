package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.core.definition.ModuleFormat;
import tidybridge.core.text.SourceText;
import tidybridge.demo.Until;
import tidybridge.service.Launched.Ended;

/** Whoever writes in an editor: a first text, one layout, and a look at each save. */
class AuthoringCommandsTest {

    private static RunningService service;

    @TempDir
    Path folder;

    private Launched launched;
    private String name = "";

    @BeforeAll
    static void start() {
        service = SharedService.get();
    }

    @BeforeEach
    void workspace() throws Exception {
        launched = new Launched(service);
        name = Callers.fresh("written");
        Files.writeString(
                folder.resolve("workspace.yaml"), "workspace: Test\nsources:\n  waterways: { kind: mariadb }\n");
    }

    private Ended tidy(String... words) throws Exception {
        return launched.tidy(words);
    }

    private Path module() {
        return folder.resolve("modules/" + name + "/v1/module.yaml");
    }

    @Test
    void aFirstTextIsPrintedWrittenAndPushed() throws Exception {
        Ended printed = tidy(
                "draft",
                "from",
                "tables",
                "waterways",
                "basin",
                "berth",
                "--public",
                "--only",
                "list,read",
                "--module",
                name);
        assertThat(printed.code()).as(printed.err()).isZero();
        assertThat(printed.out())
                .contains("basin-list.sql", "  module: " + name, "GET /basin/{id}/berth", "Nothing was kept");
        assertThat(module()).doesNotExist();

        Ended written = tidy(
                "draft",
                "from",
                "table",
                "waterways",
                "basin",
                "--public",
                "--module",
                name,
                "--write",
                "--folder",
                folder.toString());
        assertThat(written.code()).as(written.err()).isZero();
        assertThat(written.out()).contains("not made", "basin: Adding a row is refused by the database");
        String yaml = Files.readString(module());
        assertThat(ModuleFormat.of(new SourceText("module.yaml", yaml)))
                .as("as the formatter writes it")
                .isEqualTo(yaml);
        assertThat(tidy("check", "--folder", folder.toString(), "--with-sources")
                        .code())
                .isZero();

        Files.writeString(module(), yaml.replace("version: 1.0.0", "version: 1.0.0 # ours"));
        assertThat(tidy(
                                "draft",
                                "from",
                                "tables",
                                "waterways",
                                "berth",
                                "--module",
                                name,
                                "--write",
                                "--folder",
                                folder.toString())
                        .code())
                .isZero();
        assertThat(Files.readString(module()))
                .contains("version: 1.0.0 # ours", "  /basin:", "\n\n  /berth:\n    get:\n");

        assertThat(tidy("draft", "from", "tables", "waterways", "basin", "--module", name, "--push")
                        .err())
                .contains("/drafts/" + name + "/v1/edit");
        Ended again = tidy("draft", "from", "tables", "waterways", "basin", "--module", name, "--push");
        assertThat(again.code()).isEqualTo(1);
        assertThat(again.err()).contains("There is a draft of " + name + "/v1 already");
        assertThat(RunningService.json(service.desk("/desk/drafts/" + name + "/v1"))
                        .path("revision")
                        .asInt())
                .isEqualTo(1);
    }

    @Test
    void routinesAndStatementsBecomeOperations() throws Exception {
        Ended routines = tidy("draft", "from", "routine", "waterways", "toll_due", "--needs", "tolls.read");
        assertThat(routines.code()).as(routines.err()).isZero();
        assertThat(routines.out()).contains("module: toll-due", "needs: tolls.read", "GET /toll-due");
        Path file = folder.resolve("berths.sql");
        Files.writeString(file, "select id, berth_no from berth where basin_id = :basin\n");
        Ended statement = tidy(
                "draft",
                "from",
                "statement",
                "waterways",
                file.toString(),
                "--path",
                "/basins/{basin}/berths",
                "--public");
        assertThat(statement.code()).as(statement.err()).isZero();
        assertThat(statement.out())
                .contains("GET /basins/{basin}/berths", "basin: { in: path, type: integer, minimum: 0 }");
        Files.writeString(file, "drop table berth\n");
        assertThat(tidy("draft", "from", "statement", "waterways", file.toString())
                        .err())
                .contains("and nothing else");
    }

    /** Help is told whatever else a command needs, also of commands that have a version of their own. */
    @Test
    void helpNeedsNothingElse() throws Exception {
        for (String command : List.of(
                "pull",
                "draft from tables",
                "draft from routines",
                "draft from statement",
                "watch",
                "format",
                "push")) {
            Ended help = tidy((command + " --help").split(" "));
            assertThat(help.code()).as(command + ": " + help.err()).isZero();
            assertThat(help.out()).contains("Usage: ./tidy " + command, "Example");
        }
        assertThat(tidy("--version").code()).isZero();
    }

    @Test
    void mistakesAreSaidInALine() throws Exception {
        assertThat(tidy("draft", "from", "tables", "waterways").code()).isEqualTo(2);
        Ended unknown = tidy("draft", "from", "tables", "waterways", "sunk");
        assertThat(unknown.code()).isEqualTo(1);
        assertThat(unknown.err()).contains("holds no table or view 'sunk'");
        assertThat(tidy("draft", "from", "tables", "waterways", "basin", "berth", "--columns", "id")
                        .err())
                .contains("for one table");
        assertThat(tidy("draft", "from", "tables", "waterways", "basin", "--columns", "sunk")
                        .err())
                .contains("has no column 'sunk'");
    }

    @Test
    void aTextIsFormattedAndThenInOrder() throws Exception {
        Files.createDirectories(module().getParent());
        Files.writeString(module().resolveSibling("a.sql"), "select id from berth\n");
        Files.writeString(module(), """
                title: Quays # the heading
                module: %s
                routes: { /quays: { get: { answer: rows, order: [id], sql: a.sql, about: Quays } } }
                version: 1.0.0
                source: waterways
                """.formatted(name));
        Ended look = tidy("format", "--look", "--folder", folder.toString());
        assertThat(look.code()).isEqualTo(1);
        assertThat(look.out()).contains("would change  modules/" + name + "/v1/module.yaml");
        assertThat(tidy("format", "--folder", folder.toString()).code()).isZero();
        assertThat(Files.readString(module())).isEqualTo("""
                module: %s
                version: 1.0.0
                title: Quays # the heading
                source: waterways

                routes:
                  /quays:
                    get:
                      about: Quays
                      sql: a.sql
                      answer: rows
                      order: [id]
                """.formatted(name));
        assertThat(tidy("format", "--look", "--folder", folder.toString()).out())
                .contains("Everything is in order.");
    }

    /** Each save is checked and sent, and the operation answers anew. */
    @Test
    void whatIsSavedIsCheckedSentAndTried() throws Exception {
        Files.createDirectories(module().getParent());
        Path sql = module().resolveSibling("quays.sql");
        Files.writeString(sql, "select id from berth\n");
        Files.writeString(module(), """
                module: %s
                version: 1.0.0
                title: Quays
                source: waterways
                public: true
                routes:
                  /quays:
                    get: { about: Quays, sql: quays.sql, answer: rows, order: [id] }
                """.formatted(name));
        Path out = folder.resolve("out.log");
        Process watching = launched.begin(
                out,
                "watch",
                name + "/v1",
                "GET",
                "/quays",
                "--folder",
                folder.resolve(".").toString());
        try {
            until(out, "Answer: 200");
            assertThat(Files.readString(out)).contains("pushed      " + name + "/v1 revision 1");
            Files.writeString(sql, "select id, berth_no as quay from berth\n");
            until(out, "revision 2");
            until(out, "quay");
            Files.writeString(sql, "select id from nowhere\n");
            until(out, "statement-refused");
            until(out, "revision 3");
        } finally {
            watching.destroy();
            watching.waitFor();
        }
        assertThat(RunningService.json(service.desk("/desk/drafts/" + name + "/v1"))
                        .path("text")
                        .path("files")
                        .path("quays.sql")
                        .asString())
                .isEqualTo("select id from nowhere\n");
    }

    private static void until(Path log, String words) throws Exception {
        Until.seen(() -> Files.readString(log), text -> text.contains(words));
    }

    @Test
    void editorsGetSchemasThatKnowTheFiles() throws Exception {
        Files.createDirectories(module().getParent());
        Files.writeString(
                module(),
                "module: " + name
                        + "\nversion: 1.0.0\ntitle: T\nsource: waterways\npublic: false\nroutes:\n  /r:\n    get: { about: R, sql: r.sql, answer: value }\n");
        Files.writeString(module().resolveSibling("r.sql"), "select 1 as one\n");
        assertThat(tidy("schemas", "--folder", folder.toString()).out()).contains("2 written.");
        Path schema = module().resolveSibling("module.schema.json");
        assertThat(schema).content().contains("\"r.sql\"", "\"waterways\"");
        Files.writeString(module().resolveSibling("more.sql"), "select 2 as two\n");
        assertThat(tidy("schemas", "--folder", folder.toString()).out()).contains("1 written.");
        assertThat(schema).content().contains("\"more.sql\"");
        assertThat(tidy("check", "--folder", folder.toString()).out()).doesNotContain("schema.json");
        assertThat(tidy("schemas", "--remove", "--folder", folder.toString()).out())
                .contains("2 removed.");
        assertThat(schema).doesNotExist();
    }

    /** Serves one document; everything else is not there. */
    private static HttpServer serving(String document) throws Exception {
        HttpServer server = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
        server.createContext("/", exchange -> {
            String path = exchange.getRequestURI().getPath();
            byte[] body = document.getBytes(StandardCharsets.UTF_8);
            if (path.equals("/moved.yaml")) {
                exchange.getResponseHeaders().set("Location", "/stays.yaml");
                exchange.sendResponseHeaders(302, -1);
            } else if (path.equals("/stays.yaml")) {
                exchange.sendResponseHeaders(200, body.length);
                exchange.getResponseBody().write(body);
            } else {
                exchange.sendResponseHeaders(404, -1);
            }
            exchange.close();
        });
        server.start();
        return server;
    }

    @Test
    void aDocumentIsFetchedByTheCommandAndMatched() throws Exception {
        HttpServer server = serving(Files.readString(Path.of("src/test/resources/stays.yaml")));
        try {
            String at = "http://127.0.0.1:" + server.getAddress().getPort();
            Ended proposed = tidy("draft", "from", "document", "waterways", at + "/moved.yaml", "--public");
            assertThat(proposed.code()).as(proposed.err()).isZero();
            assertThat(proposed.out())
                    .contains("  module: moved", "GET /places/{placeId}", "to be written", "10 of 11", "lastSurvey")
                    .contains("promise-unkept", "here rows stand in 'data'");

            Ended matched = tidy(
                    "draft",
                    "from",
                    "document",
                    "waterways",
                    at + "/stays.yaml",
                    "--module",
                    name,
                    "--match",
                    "GET /places/{placeId}=berth",
                    "--match",
                    "get /berths=",
                    "--column",
                    "GET /places/{placeId}: place=berth_no",
                    "--column",
                    "GET /places/{placeId}: town=basin.town",
                    "--column",
                    "GET /places/{placeId}: placeId=id",
                    "--write",
                    "--folder",
                    folder.toString());
            assertThat(matched.code()).as(matched.err()).isZero();
            assertThat(module().resolveSibling("places-placeid-get.sql"))
                    .content()
                    .contains("berth.berth_no as place", "basin.town", "berth.id = :placeId");
            assertThat(module().resolveSibling("berths-get.sql")).content().contains("To be written: GET /berths");

            assertThat(tidy("draft", "from", "document", "waterways", at + "/gone.yaml")
                            .err())
                    .contains("answered with 404");
            assertThat(tidy(
                                    "draft",
                                    "from",
                                    "document",
                                    "waterways",
                                    folder.resolve("gone.yaml").toString())
                            .err())
                    .contains("cannot be read");
            assertThat(tidy("draft", "from", "document", "waterways", at + "/stays.yaml", "--column", "GET /gone: a=b")
                            .err())
                    .contains("has no operation GET /gone");
            assertThat(tidy("draft", "from", "document", "waterways", at + "/stays.yaml", "--match", "berths")
                            .err())
                    .contains("--match 'GET /berths=berth'");
        } finally {
            server.stop(0);
        }
    }

    @Test
    void aSampleIsMatchedAndPushed() throws Exception {
        Path sample = folder.resolve("quays.json");
        Files.writeString(sample, "[{\"id\":1,\"berthNo\":\"A01\",\"lengthM\":9.5}]");
        Ended pushed = tidy(
                "draft",
                "from",
                "sample",
                "waterways",
                sample.toString(),
                "--module",
                name,
                "--public",
                "--push",
                "--match",
                "GET /quays=berth");
        assertThat(pushed.code()).as(pushed.err()).isZero();
        assertThat(pushed.out()).contains("GET /quays/{id}", "3 of 3");
        assertThat(pushed.err()).contains("A draft:");
        Ended json = tidy("draft", "from", "sample", "waterways", sample.toString(), "--json");
        assertThat(json.out()).contains("\"operation\" : \"GET /quays\"");
    }
}
