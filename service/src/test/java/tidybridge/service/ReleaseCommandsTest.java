package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The commands around releases: compare, publish, history, revert, retire. */
class ReleaseCommandsTest {

    private static RunningService service;

    @TempDir
    static Path folder;

    @BeforeAll
    static void start() throws Exception {
        service = RunningService.apart("tidy_records_commands");
        Path module = Files.createDirectories(folder.resolve("modules/quays/v1"));
        Files.writeString(
                folder.resolve("workspace.yaml"), "workspace: Test\nsources:\n  waterways: { kind: mariadb }\n");
        write("1.0.0", "select id, berth_no, width_m from berth");
        assertThat(module).isDirectory();
    }

    @AfterAll
    static void stop() {
        service.close();
    }

    private static void write(String version, String sql) throws Exception {
        Path module = folder.resolve("modules/quays/v1");
        Files.writeString(module.resolve("module.yaml"), """
                module: quays
                version: %s
                title: Quays
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                routes:
                  /quays:
                    get: { about: Quays, sql: quays.sql, answer: rows, order: [id] }
                """.formatted(version));
        Files.writeString(module.resolve("quays.sql"), sql + "\n");
    }

    private static Ended tidy(String... words) throws Exception {
        return new Launched(service).tidy(words);
    }

    private static Ended publish(String... more) throws Exception {
        String[] words = new String[3 + more.length];
        words[0] = "publish";
        words[1] = "--folder";
        words[2] = folder.toString();
        System.arraycopy(more, 0, words, 3, more.length);
        return tidy(words);
    }

    /** One walk through all of them, as somebody goes who changes a module, is stopped, goes on, and takes it back. */
    @Test
    void aReleaseIsComparedPublishedTakenBackAndRetired() throws Exception {
        String at = folder.toString();
        assertThat(tidy("compare", "--folder", at))
                .isEqualTo(new Ended(0, "quays 1.0.0  is the first of its name.\n", ""));
        assertThat(publish("--note", "The first quays."))
                .isEqualTo(new Ended(0, "published    quays/v1 1.0.0 at /api/quays/v1\n", ""));

        write("1.1.0", "select id, berth_no from berth");
        Ended compared = tidy("compare", "--folder", at);
        assertThat(compared.code()).isEqualTo(1);
        assertThat(compared.out()).isEqualTo("""
                quays  1.0.0 -> 1.1.0  1 breaking
                  breaking  GET /quays
                            The field 'width_m' is gone.

                  module.yaml
                    1   module: quays
                    2 - version: 1.0.0
                    2 + version: 1.1.0
                    3   title: Quays
                    4   source: waterways
                    5   public: true

                  quays.sql
                    1 - select id, berth_no, width_m from berth
                    1 + select id, berth_no from berth
                    2  \s

                  quays 1.1.0 breaks what 1.0.0 promises in 1 place. Publish it as 2.0.0, which is served beside it, or say why callers must live with it: 'breaking', on the command line --breaking.

                """);
        Ended refused = publish();
        assertThat(refused.code()).isEqualTo(1);
        assertThat(refused.out()).contains("breaking  GET /quays\n            The field 'width_m' is gone.\n");
        assertThat(refused.err())
                .startsWith("tidy: 409 Callers were promised something else: Nothing was changed. quays 1.1.0 breaks");
        assertThat(publish("--breaking", "nobody measures any more"))
                .isEqualTo(new Ended(0, "published    quays/v1 1.1.0 at /api/quays/v1, 1 breaking since 1.0.0\n", ""));

        Ended history = tidy("history", "quays");
        assertThat(history.out().replaceAll(" +", " "))
                .contains(
                        "\n1.1.0 live ",
                        " 1 breaking since 1.0.0\n",
                        "\n Breaks callers: nobody measures any more\n",
                        " The first quays.\n",
                        " quays/v1 1.1.0 published ");
        JsonNode json =
                JsonMapper.shared().readTree(tidy("history", "quays", "--json").out());
        assertThat(json.at("/releases/0/breaking").asString()).isEqualTo("nobody measures any more");

        Ended back = tidy("revert", "quays", "1.0.0", "--because", "somebody does");
        assertThat(back.out()).startsWith("quays/v1 is 1.0.0 again, in place of 1.1.0: 1 safe.\n");
        assertThat(tidy("revert", "quays", "1.0.0").out()).isEqualTo("quays/v1 is 1.0.0 already.\n");
        assertThat(tidy("revert", "quays", "1.0").code()).isEqualTo(2);
        assertThat(tidy("revert", "quays", "1.9.0").err()).contains("404 No such module");

        assertThat(tidy("retire", "quays/v1").err()).contains("Say why it goes: --because TEXT.");
        assertThat(tidy("retire", "quays/v1", "--because", "the harbour closed"))
                .isEqualTo(new Ended(0, "quays/v1 is retired; it was 1.0.0.\n", ""));
        assertThat(service.get("/api/quays/v1/quays").statusCode()).isEqualTo(410);
        assertThat(tidy("history", "quays").out()).contains("the harbour closed");
    }

    @Test
    void twoReleasesAndAFolderAreComparedWithEachOther() throws Exception {
        service.publish(
                Files.readString(folder.resolve("modules/quays/v1/module.yaml"))
                        .replace("quays", "piers")
                        .replaceAll("version: .*", "version: 1.0.0"),
                java.util.Map.of("piers.sql", "select id from berth"));
        service.publish(
                Files.readString(folder.resolve("modules/quays/v1/module.yaml"))
                        .replace("quays", "piers")
                        .replaceAll("version: .*", "version: 1.1.0"),
                java.util.Map.of("piers.sql", "select id, berth_no from berth"));
        Ended safe = tidy("compare", "piers/1.0.0", "piers/v1", "--brief");
        assertThat(safe)
                .isEqualTo(new Ended(
                        0,
                        "piers  1.0.0 -> 1.1.0  1 safe\n  safe      GET /piers\n            The field 'berth_no' is new.\n\n",
                        ""));
        Ended breaks = tidy("compare", "piers/v1", "piers/1.0.0", "--json");
        assertThat(breaks.code()).isEqualTo(1);
        JsonNode told =
                JsonMapper.shared().readTree(breaks.out()).path("modules").get(0);
        assertThat(told.path("next").asString()).isEqualTo("2.0.0");
        assertThat(told.at("/differences/0/kind").asString()).isEqualTo("field-removed");
        assertThat(tidy("compare", "piers/v1").err()).contains("Name what to compare it with too");
        assertThat(tidy("compare", "piers/v1", "piers/9.9.9").code()).isEqualTo(1);
        assertThat(tidy("compare", "piers/v1", folder.toString()).err())
                .isEqualTo("tidy: Nothing on one side is the same module as something on the other.\n");
        assertThat(tidy("compare", "piers/v1", "piers/v1", "--later-at", "nowhere")
                        .err())
                .startsWith("tidy: You are not signed in at a server named 'nowhere'.");
    }
}
