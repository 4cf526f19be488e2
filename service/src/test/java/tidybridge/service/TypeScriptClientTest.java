package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.api.io.TempDir;

/** The typed client of a module is compiled by TypeScript's own compiler at its strictest, and called against the service. */
class TypeScriptClientTest {

    private static final Path COMPILER = Path.of("..", "console", "node_modules", "typescript-compiler", "bin", "tsc");

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

    private void download(String module) throws Exception {
        String client = service.get("/reference/" + module + "/client.ts").body();
        assertThat(client).contains("export class ");
        Files.writeString(folder.resolve("client.ts"), client);
    }

    private record Ended(int code, String out) {}

    private Ended run(String... words) throws Exception {
        File out = folder.resolve("out.txt").toFile();
        Process process = new ProcessBuilder(words)
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(out)
                .start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        return new Ended(process.exitValue(), Files.readString(out.toPath(), StandardCharsets.UTF_8));
    }

    private Ended compile(String use) throws Exception {
        Files.writeString(folder.resolve("use.ts"), use);
        return compileFiles(List.of("use.ts"));
    }

    /** As one program: a compiler takes longer to start than to look at a file more. */
    private Ended compileFiles(List<String> files) throws Exception {
        Files.writeString(folder.resolve("package.json"), "{\"type\": \"module\"}");
        List<String> words = new ArrayList<>(
                List.of("node", COMPILER.toAbsolutePath().normalize().toString()));
        words.addAll(List.of("--strict", "--exactOptionalPropertyTypes", "--noUncheckedIndexedAccess"));
        words.addAll(List.of("--noUnusedParameters", "--noImplicitReturns", "--noPropertyAccessFromIndexSignature"));
        words.addAll(List.of("--target", "es2022", "--module", "es2022", "--moduleResolution", "bundler"));
        words.addAll(List.of("--lib", "es2022,dom,dom.iterable"));
        words.addAll(files);
        return run(words.toArray(String[]::new));
    }

    private String called(String use) throws Exception {
        Ended compiled = compile(use);
        assertThat(compiled.code()).as(compiled.out()).isZero();
        Ended called = run("node", "use.js");
        assertThat(called.code()).as(called.out()).isZero();
        return called.out();
    }

    @Test
    void rowsAreReadPageByPageAndChangedWhereTheyStandStill() throws Exception {
        download("moorings/v1");
        String key = callers.holding("moorings.book");
        String out = called("""
                import { MooringsV1, ProblemError, type BerthsRow } from "./client.js";

                const moorings = new MooringsV1({ credential: () => "%s" });
                const seen: BerthsRow[] = [];
                for await (const berth of moorings.getBerthsRows({ from: "2031-05-01", until: "2031-05-04", limit: 10, width_m: { gte: 4 } })) {
                  seen.push(berth);
                }
                const ids = new Set(seen.map((berth) => berth.id));
                console.log("all", ids.size === seen.length && ids.size > 10 && seen.every((berth) => (berth.width_m ?? 0) >= 4));

                const { body: one } = await moorings.getBerthsByBerthId({ berthId: 17 });
                console.log("one", one.id);

                const page = await moorings.getBookings({ limit: 1 });
                const booking = page.body.data[0]!;
                const read = await moorings.getBookingsByBookingId({ bookingId: booking.id! });
                console.log("tagged", read.etag !== null);
                try {
                  await moorings.patchBookingsByBookingId({ bookingId: booking.id!, ifMatch: '"old"', body: { note: "x" } });
                } catch (e) {
                  console.log("stopped", e instanceof ProblemError && e.problem.status === 412 && e.problem.code);
                }
                try {
                  await moorings.getBerthsByBerthId({ berthId: 999999 });
                } catch (e) {
                  console.log("missing", e instanceof ProblemError && e.problem.status);
                }
                """.formatted(key));
        assertThat(out.lines())
                .containsExactly("all true", "one 17", "tagged true", "stopped state-changed", "missing 404");
    }

    @Test
    void whatCannotBeRightDoesNotCompile() throws Exception {
        download("moorings/v1");
        List<String> wrong = List.of(
                "await client.getBerthsByBerthId({});",
                "await client.getBerthsByBerthId({ berthId: '17' });",
                "await client.getBerths({ from: '2031-05-01', until: '2031-05-04', colour: 'red' });",
                "(await client.getBasins()).body.data[0]!.colour;",
                "await client.patchBookingsByBookingId({ bookingId: 1, ifMatch: '*', body: { colour: 'red' } });");
        List<String> files = new ArrayList<>();
        for (String line : wrong) {
            String file = "wrong-" + files.size() + ".ts";
            files.add(file);
            Files.writeString(
                    folder.resolve(file),
                    "import { MooringsV1 } from './client.js';\nconst client = new MooringsV1();\n" + line + "\n");
        }
        Ended compiled = compileFiles(files);
        assertThat(compiled.code()).isNotZero();
        assertThat(compiled.out()).doesNotContain("client.ts(");
        for (String file : files) {
            assertThat(compiled.out()).as(wrong.get(files.indexOf(file))).contains(file + "(3,");
        }
    }

    /** Other schemas and types than the demo's. */
    @Test
    void everyModuleCompiles() throws Exception {
        String key = callers.holding("answers.*", "stores.*", "routines.*", "doors.*");
        List<String> files = new ArrayList<>();
        for (String module : List.of("answers", "stores", "routines", "doors")) {
            String client = service.send(
                            "GET", "/reference/" + module + "/v1/client.ts", "", "Authorization", "Bearer " + key)
                    .body();
            assertThat(client).contains("export class ");
            files.add(module + ".ts");
            Files.writeString(folder.resolve(module + ".ts"), client);
        }
        Ended compiled = compileFiles(files);
        assertThat(compiled.code()).as(compiled.out()).isZero();
    }

    /** Names and texts of somebody who thought of no generator. */
    @Test
    void namesThatAreNoIdentifiersAreCalledAllTheSame() throws Exception {
        HttpResponse<String> published = service.publish(
                """
                module: odd-names
                version: 1.0.0
                title: "Odd */ names ${x} `y`"
                source: waterways
                public: true
                accept: { open-to-everybody: a test }
                listed: everybody
                routes:
                  /class/{newId}/a-b:
                    get:
                      about: "Ends a comment */ and `begins` ${another}"
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
                        "select :new_id as `new`, :body as `class`, :new as `function`, :of as `await`, count(*) as n from berth where id in (:many)"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        download("odd-names/v1");
        assertThat(called("""
                import { OddNamesV1 } from "./client.js";
                const odd = new OddNamesV1();
                const { body } = await odd.getClassByNewIdAB({ newId: 7, body2: "a&b", xOf: "north", new: "n", many: [1, 2] });
                console.log(JSON.stringify(body));
                """))
                .isEqualTo("{\"new\":7,\"class\":\"a&b\",\"function\":\"n\",\"await\":\"north\",\"n\":2}\n");
    }
}
