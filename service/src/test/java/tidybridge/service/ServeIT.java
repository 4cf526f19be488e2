package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;

/** {@code ./tidy serve} with a workspace and a record store of one's own, as docs/first-day.md tells it. */
class ServeIT {

    private static final Path LAUNCHER = Path.of("..", "tidy").toAbsolutePath().normalize();
    private static final Path STATE =
            Path.of("target", "serve-state").toAbsolutePath().normalize();
    private static int port;

    @TempDir
    Path folder;

    private record Ended(int code, String output) {}

    @BeforeAll
    static void prepare() throws Exception {
        ServiceArchive.make();
        TestDatabase.execute(
                "",
                "create or replace database tidy_records_served",
                "create or replace user tidy_owner@127.0.0.1 identified by 'choose-one'",
                "grant all on tidy_records_served.* to tidy_owner@127.0.0.1 with grant option",
                "create or replace user tidy@127.0.0.1 identified by 'choose-two'",
                "create or replace database shop",
                "create table shop.item (id int primary key, name varchar(40) not null, price decimal(8,2) not null)",
                "insert into shop.item values (1, 'Rope', 12.50)",
                "create or replace user reader@127.0.0.1 identified by 'choose-three'",
                "grant select on shop.* to reader@127.0.0.1");
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            port = socket.getLocalPort();
        }
    }

    private Path workspace() throws IOException {
        Path module = Files.createDirectories(folder.resolve("bridge/modules/items/v1"));
        Files.writeString(folder.resolve("bridge/workspace.yaml"), """
                workspace: My shop
                sources:
                  shop: { kind: mariadb, host: 127.0.0.1, port: %d, schema: shop, user: reader, secret: { env: SHOP_PASSWORD } }
                """.formatted(
                        TestDatabase.server().port()));
        Files.writeString(module.resolve("module.yaml"), """
                module: items
                version: 1.0.0
                title: Items
                source: shop
                public: true
                routes:
                  /items/{id}:
                    get: { about: One item, sql: item.sql, answer: row, parameters: { id: { in: path, type: integer, example: 1 } } }
                """);
        Files.writeString(module.resolve("item.sql"), "select id, name, price from item where id = :id\n");
        return folder.resolve("bridge");
    }

    private static ProcessBuilder tidy(Map<String, String> environment, String... words) {
        List<String> command = new ArrayList<>(List.of(LAUNCHER.toString()));
        command.addAll(List.of(words));
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
        builder.environment().put("TIDY_BUILT", "1");
        builder.environment().put("TIDY_STATE", STATE.toString());
        // what runs for a minute is sooner there without the second compiler
        builder.environment().put("TIDY_JVM", "-XX:TieredStopAtLevel=1");
        builder.environment().putAll(environment);
        return builder;
    }

    private static Ended ended(ProcessBuilder builder) throws Exception {
        Process process = builder.start();
        String output = new String(process.getInputStream().readAllBytes());
        process.onExit().join();
        return new Ended(process.exitValue(), output);
    }

    private static Map<String, String> settings() {
        return Map.ofEntries(
                Map.entry("TIDY_PORT", String.valueOf(port)),
                Map.entry("SHOP_PASSWORD", "choose-three"),
                Map.entry("RECORDS_PASSWORD", "choose-two"),
                Map.entry("RECORDS_OWNER_PASSWORD", "choose-one"),
                Map.entry("TIDY_RECORDS_HOST", "127.0.0.1"),
                Map.entry(
                        "TIDY_RECORDS_PORT",
                        String.valueOf(TestDatabase.server().port())),
                Map.entry("TIDY_RECORDS_SCHEMA", "tidy_records_served"),
                Map.entry("TIDY_RECORDS_USER", "tidy"),
                Map.entry("TIDY_RECORDS_SECRETENV", "RECORDS_PASSWORD"),
                Map.entry("TIDY_RECORDS_OWNER", "tidy_owner"),
                Map.entry("TIDY_RECORDS_OWNERSECRETENV", "RECORDS_OWNER_PASSWORD"));
    }

    /** Does something with a service that is started for it. */
    private void served(
            Map<String, String> environment, Path workspace, String greeting, TestDatabase.ThrowingRunnable work)
            throws Exception {
        Path output = folder.resolve("serve.out");
        Process serving = tidy(environment, "serve", "--folder", workspace.toString())
                .redirectOutput(output.toFile())
                .start();
        try {
            Until.holds(() -> Files.readString(output).contains("Ready at") || !serving.isAlive());
            assertThat(Files.readString(output)).contains("Ready at http://127.0.0.1:" + port + " with " + greeting);
            work.run();
        } finally {
            serving.destroy();
            serving.onExit().join();
        }
        assertThat(Files.readString(output)).doesNotContain("tidy:").doesNotContain("Exception");
    }

    private static void assertItemIsServed() throws Exception {
        HttpResponse<String> item = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/items/v1/items/1"))
                                .build(),
                        HttpResponse.BodyHandlers.ofString());
        assertThat(item.body()).isEqualTo("{\"id\":1,\"name\":\"Rope\",\"price\":12.50}");
    }

    @Test
    void anOwnWorkspaceIsServedAndTheCommandsFindTheService() throws Exception {
        Path workspace = workspace();
        Path archive = folder.resolve("records.zip");
        served(settings(), workspace, "0 modules;", () -> {
            assertThat(ended(tidy(Map.of(), "source", "test", "shop")).output()).contains("The source can be used.");
            assertThat(ended(tidy(Map.of(), "check", "--with-sources", "--folder", workspace.toString()))
                            .code())
                    .isZero();
            Ended published = ended(tidy(Map.of(), "publish").directory(workspace.toFile()));
            assertThat(published.code()).as(published.output()).isZero();
            assertItemIsServed();
            Ended backup = ended(tidy(Map.of(), "backup", archive.toString()));
            assertThat(backup.code()).as(backup.output()).isZero();
            assertThat(Files.getPosixFilePermissions(archive)).isEqualTo(PosixFilePermissions.fromString("rw-------"));
        });
        restoreElsewhere(workspace, archive);
    }

    /** Another record store takes the archive, and a service over it goes on. */
    private void restoreElsewhere(Path workspace, Path archive) throws Exception {
        TestDatabase.execute(
                "",
                "create or replace database tidy_records_moved",
                "grant all on tidy_records_moved.* to tidy_owner@127.0.0.1 with grant option");
        Map<String, String> moved = new HashMap<>(settings());
        moved.put("TIDY_RECORDS_SCHEMA", "tidy_records_moved");
        Path cut = folder.resolve("cut.zip");
        byte[] whole = Files.readAllBytes(archive);
        Files.write(cut, Arrays.copyOf(whole, whole.length - 100));
        Ended damaged = ended(tidy(moved, "restore", cut.toString()));
        assertThat(damaged.code()).isEqualTo(1);
        assertThat(damaged.output())
                .isEqualTo("tidy: " + cut
                        + " is not a whole archive of a record store: it is no ZIP archive, or its end is missing.\n");
        Ended restored = ended(tidy(moved, "restore", archive.toString()));
        assertThat(restored.code()).as(restored.output()).isZero();
        assertThat(restored.output()).contains("module_release", "is as it was then; start the service over it.");
        Ended again = ended(tidy(moved, "restore", archive.toString()));
        assertThat(again.code()).isEqualTo(1);
        assertThat(again.output()).contains("The record store is in use already");
        served(moved, workspace, "1 module;", ServeIT::assertItemIsServed);
    }

    /** A process without memory must not go on half alive; one that starts again and again is no service either. */
    @Test
    void aServiceOutOfMemoryIsStartedAgainAFewTimes() throws Exception {
        Map<String, String> small = new HashMap<>(settings());
        small.put("TIDY_HEAP", "8m");
        Ended ended = ended(tidy(small, "serve", "--folder", workspace().toString()));
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.output()
                        .lines()
                        .filter(line -> line.endsWith("it is started again. TIDY_HEAP=1g gives it more.")))
                .hasSize(3);
        assertThat(ended.output()
                        .lines()
                        .filter(line -> line.startsWith("tidy:"))
                        .toList()
                        .getLast())
                .isEqualTo("tidy: The service ran out of memory (8m) again and again; give it more with TIDY_HEAP=1g.");
    }

    @Test
    void whatIsMissingIsSaidInOneLine() throws Exception {
        Ended ended = ended(tidy(
                Map.of("TIDY_PORT", String.valueOf(port), "SHOP_PASSWORD", "choose-two"),
                "serve",
                "--folder",
                workspace().toString()));
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.output())
                .hasLineCount(1)
                .startsWith("tidy: The settings cannot be used: tidy.records.host is missing")
                .contains("tidy.records.schema is missing", "docs/first-day.md");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            serve --folder /nowhere       | 1 | There is no /nowhere/workspace.yaml; name the folder that holds it
            serve --folder                | 2 | --folder needs a folder
            serve --frobnicate            | 2 | serve has no option '--frobnicate'
            serve --settings /nowhere     | 2 | --settings needs a file that is there
            demo --workspace /nowhere     | 1 | There is no /nowhere/workspace.yaml
            demo --workspace              | 2 | --workspace needs a folder
            """)
    void mistypedWordsAreOneLine(String words, int code, String sentence) throws Exception {
        Ended ended = ended(tidy(Map.of(), words.split(" ")));
        assertThat(ended.code()).isEqualTo(code);
        assertThat(ended.output()).startsWith("tidy: ").contains(sentence).hasLineCount(1);
    }
}
