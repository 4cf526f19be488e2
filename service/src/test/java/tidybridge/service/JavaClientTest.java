package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringWriter;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import javax.tools.JavaCompiler;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The typed client of a module in Java is compiled without a warning, and called against the service. */
class JavaClientTest {

    @RegisterExtension
    static final Situation ANSWERS = new Situation("answers");

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @RegisterExtension
    static final Situation ROUTINES = new Situation("routines");

    @RegisterExtension
    static final Situation DOORS = new Situation("doors");

    private static RunningService service;
    private static Callers callers;

    @TempDir
    private Path folder;

    @BeforeAll
    static void start() throws Exception {
        service = SharedService.get();
        service.publishDemo();
        callers = new Callers(service);
    }

    private String download(String module, String... headers) throws Exception {
        HttpResponse<String> client = service.send("GET", "/reference/" + module + "/client.java", "", headers);
        assertThat(client.statusCode()).as(client.body()).isEqualTo(200);
        String file = client.headers()
                .firstValue("Content-Disposition")
                .orElseThrow()
                .replaceFirst(".*filename=\"([^\"]*)\"", "$1");
        Files.writeString(folder.resolve(file), client.body());
        return file;
    }

    /** What the compiler says; empty when all is well. */
    private String compile(String... files) {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        StringWriter out = new StringWriter();
        try (var manager = compiler.getStandardFileManager(null, null, StandardCharsets.UTF_8)) {
            List<Path> paths = new ArrayList<>();
            for (String file : files) {
                paths.add(folder.resolve(file));
            }
            boolean good = compiler.getTask(
                            out,
                            manager,
                            null,
                            List.of("-Xlint:all", "-Werror", "--release", "21", "-d", folder.toString()),
                            null,
                            manager.getJavaFileObjectsFromPaths(paths))
                    .call();
            return good ? "" : out + " not compiled";
        } catch (java.io.IOException e) {
            throw new IllegalStateException(e);
        }
    }

    private String called(String client, String use) throws Exception {
        Files.writeString(folder.resolve("Use.java"), """
                import java.math.BigDecimal;
                import java.time.LocalDate;
                import java.util.*;

                public final class Use {
                    public static void main(String[] arguments) throws Exception {
                        %s
                    }
                }
                """.formatted(use));
        assertThat(compile(client, "Use.java")).isEmpty();
        Path out = folder.resolve("out.txt");
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        folder.toString(),
                        "Use")
                .redirectErrorStream(true)
                .redirectOutput(out.toFile())
                .start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(process.exitValue()).as(Files.readString(out)).isZero();
        return Files.readString(out);
    }

    @Test
    void rowsAreReadPageByPageAndChangedWhereTheyStandStill() throws Exception {
        String client = download("moorings/v1");
        assertThat(client).isEqualTo("MooringsV1.java");
        String out = called(client, """
                MooringsV1 moorings = new MooringsV1(() -> "%s");
                var stay = new MooringsV1.GetBerthsInput(LocalDate.of(2031, 5, 1), LocalDate.of(2031, 5, 4));
                List<MooringsV1.BerthsRow> seen = new ArrayList<>();
                moorings.getBerthsRows(stay.limit(10L).widthMGte(new BigDecimal("4")), seen::add);
                Set<Long> ids = new HashSet<>();
                seen.forEach(berth -> ids.add(berth.id()));
                System.out.println("all " + (ids.size() == seen.size() && ids.size() > 10
                        && seen.stream().allMatch(berth -> berth.widthM().compareTo(new BigDecimal("4")) >= 0)));
                System.out.println("one " + moorings.getBerthsByBerthId(new MooringsV1.GetBerthsByBerthIdInput(17L)).body().id());
                var made = moorings.postBookings(new MooringsV1.PostBookingsInput(new MooringsV1.PostBookingsBody(
                        17L, 42L, LocalDate.of(%d, 5, 1), LocalDate.of(%d, 5, 4))));
                long id = made.body().id();
                System.out.println("made " + made.status());
                var read = moorings.getBookingsByBookingId(new MooringsV1.GetBookingsByBookingIdInput(id));
                var changed = moorings.patchBookingsByBookingId(new MooringsV1.PatchBookingsByBookingIdInput(
                        id, read.etag(), new MooringsV1.PatchBookingsByBookingIdBody().note("Late\\n\\"dusk\\"")));
                System.out.println("changed " + changed.body().note().equals("Late\\n\\"dusk\\""));
                var removed = moorings.patchBookingsByBookingId(new MooringsV1.PatchBookingsByBookingIdInput(
                        id, "*", new MooringsV1.PatchBookingsByBookingIdBody().note(null)));
                System.out.println("removed " + (removed.body().note() == null));
                try {
                    moorings.patchBookingsByBookingId(new MooringsV1.PatchBookingsByBookingIdInput(
                            id, read.etag(), new MooringsV1.PatchBookingsByBookingIdBody().note("x")));
                } catch (MooringsV1.ProblemException e) {
                    System.out.println("stopped " + e.status() + " " + e.code() + " " + (e.requestId() != null));
                }
                System.out.println("ended " + moorings.deleteBookingsByBookingId(
                        new MooringsV1.DeleteBookingsByBookingIdInput(id)).status());
                try {
                    new MooringsV1().getBookings(new MooringsV1.GetBookingsInput());
                } catch (MooringsV1.ProblemException e) {
                    System.out.println("unknown " + e.status());
                }
                """.formatted(callers.holding("moorings.book"), year(), year())
                .replace("%%", "%"));
        assertThat(out.lines())
                .containsExactly(
                        "all true",
                        "one 17",
                        "made 201",
                        "changed true",
                        "removed true",
                        "stopped 412 state-changed true",
                        "ended 204",
                        "unknown 401");
    }

    private static final int YEAR = 2100 + new java.util.Random().nextInt(6000);

    private static int year() {
        return YEAR;
    }

    @Test
    void whatCannotBeRightDoesNotCompile() throws Exception {
        String client = download("moorings/v1");
        for (String wrong : List.of(
                "new MooringsV1.GetBerthsByBerthIdInput();",
                "new MooringsV1.GetBerthsByBerthIdInput(\"17\");",
                "new MooringsV1.GetBookingsInput().colour(\"red\");",
                "new MooringsV1.PatchBookingsByBookingIdBody().colour(\"red\");")) {
            Files.writeString(folder.resolve("Use.java"), "class Use { void use() { " + wrong + " } }\n");
            assertThat(compile(client, "Use.java"))
                    .as(wrong)
                    .contains("Use.java")
                    .doesNotContain(client + ":");
        }
    }

    /** Other schemas and types than the demo's. */
    @ParameterizedTest
    @ValueSource(strings = {"answers", "stores", "routines", "doors", "tolls", "passages"})
    void everyModuleCompiles(String module) throws Exception {
        String key = callers.holding("answers.*", "stores.*", "routines.*", "doors.*", "tolls.*", "passages.*");
        String client = download(module + "/v1", "Authorization", "Bearer " + key);
        assertThat(compile(client)).isEmpty();
    }

    /** Names and texts of somebody who thought of no generator. */
    @Test
    void namesThatAreNoIdentifiersAreCalledAllTheSame() throws Exception {
        HttpResponse<String> published = service.publish(
                """
                module: odd-words
                version: 1.0.0
                title: "Odd */ names ${x} \\\\u000a `y`"
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                listed: everybody
                routes:
                  /class/{newId}/a-b:
                    get:
                      about: "Ends a comment */ and \\\\u002a/ @begins <b>"
                      sql: odd.sql
                      answer: row
                      parameters:
                        new_id: { name: newId, in: path, type: integer, required: true }
                        body: { in: query, type: string }
                        of: { name: X-Of, in: header, type: string }
                        new: { in: query, type: string }
                        many: { in: query, type: array, items: { type: integer }, required: true }
                """,
                Map.of(
                        "odd.sql",
                        "select :new_id as `new`, :body as `class`, :new as `hashCode`, :of as `await`, count(*) as n from berth where id in (:many)"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        String client = download("odd-words/v1");
        assertThat(called(client, """
                var body = new OddWordsV1().getClassByNewIdAB(new OddWordsV1.GetClassByNewIdABInput(7L, List.of(1L, 2L))
                        .body("a&b").xOf("north").new2("n")).body();
                System.out.println(body);
                """)).contains("new2=7, class2=a&b, hashCode2=n, await=north, n=2");
    }
}
