package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tidybridge.core.TestScope;

/**
 * The reference as strangers' tools read it: a linter finds nothing, and code that two common generators make of it compiles without an
 * edit and calls the service. The demo is called; modules with one of everything are generated and compiled.
 */
class ClientsTest {

    private static final Path SOURCES = Path.of("src", "test", "clients").toAbsolutePath();
    private static final Path TYPESCRIPT = SOURCES.resolve("typescript");
    private static final Path TARGET = Path.of("target", "clients").toAbsolutePath();
    private static final String QUICK_START = "-XX:TieredStopAtLevel=1";
    private static final Path TOOLS = Path.of("target", "client-tools").toAbsolutePath();

    @RegisterExtension
    static final DemoService DEMO = new DemoService();

    @RegisterExtension
    static final Situation ANSWERS = new Situation("answers");

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @RegisterExtension
    static final Situation ROUTINES = new Situation("routines");

    private static final List<String> OF_DEMO = List.of("moorings", "passages", "tolls");
    private static final List<String> OF_EVERYTHING = List.of("answers", "stores", "routines");

    @BeforeAll
    static void fetch() throws Exception {
        Files.createDirectories(TARGET);
        for (String module : OF_DEMO) {
            fetch(DEMO.running(), module);
        }
        for (String module : OF_EVERYTHING) {
            fetch(ANSWERS.service(), module);
        }
    }

    private static void fetch(RunningService service, String module) throws Exception {
        for (String kind : List.of("json", "yaml")) {
            Files.writeString(
                    TARGET.resolve(module + "." + kind),
                    service.desk("/api/" + module + "/v1/openapi." + kind).body());
        }
        Files.writeString(
                TARGET.resolve(module + "-3.0.json"),
                service.desk("/reference/" + module + "/v1/openapi-3.0.json").body());
    }

    private static Stream<String> modules() {
        return Stream.concat(OF_DEMO.stream(), OF_EVERYTHING.stream());
    }

    /** Runs a program to its end and hands back what it printed; it must succeed. */
    private static String run(Path folder, List<String> command) throws Exception {
        Path output = Files.createTempFile("client", ".out");
        Process process = new ProcessBuilder(command)
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(output.toFile())
                .start();
        boolean ended = process.waitFor(120, TimeUnit.SECONDS);
        String said = Files.readString(output);
        Files.delete(output);
        assertThat(ended && process.exitValue() == 0)
                .as("%s ...%n%s", command.getFirst(), said.length() > 4_000 ? said.substring(0, 4_000) : said)
                .isTrue();
        return said;
    }

    private static String npm(String program, String... words) throws Exception {
        List<String> command = new ArrayList<>(
                List.of(TYPESCRIPT.resolve("node_modules/.bin/" + program).toString()));
        command.addAll(List.of(words));
        return run(TYPESCRIPT, command);
    }

    private static List<String> documents(String... words) {
        List<String> all = new ArrayList<>(List.of(words));
        modules().forEach(module -> {
            all.add(TARGET.resolve(module + ".json").toString());
            all.add(TARGET.resolve(module + ".yaml").toString());
            all.add(TARGET.resolve(module + "-3.0.json").toString());
        });
        return all;
    }

    @Test
    void anotherLinterFindsNothingEither() throws Exception {
        assertThat(run(TYPESCRIPT, documents("node", "lint.mjs"))).isEmpty();
    }

    @Test
    void aLinterFindsNothing() throws Exception {
        List<String> words = documents("lint", "--fail-severity=hint", "--ruleset", "spectral.yaml");
        assertThat(npm("spectral", words.toArray(String[]::new)))
                .contains("No results with a severity of 'hint' or higher found!");
    }

    @Test
    void aTypedTypeScriptClientCallsTheDemo() throws Exception {
        List<String> types = new ArrayList<>(List.of("node", "types.mjs"));
        modules().forEach(module -> types.add(TARGET.resolve(module + ".json").toString()));
        Files.createDirectories(TYPESCRIPT.resolve("generated"));
        run(TYPESCRIPT, types);
        run(TYPESCRIPT, List.of("node", "node_modules/typescript-compiler/bin/tsc"));
        assertThat(run(
                        TYPESCRIPT,
                        List.of("node", "compiled/call.js", DEMO.running().address() + "/api/moorings/v1", key())))
                .contains("all calls answered as the reference says");
    }

    @Test
    void aGeneratedJavaClientCallsTheDemo() throws Exception {
        // each takes some seconds, so those with the most in them only where everything is tried
        for (String module : TestScope.ALL ? List.of("moorings", "answers", "stores") : List.of("moorings")) {
            List<String> sources = generate(module);
            if (module.equals("moorings")) {
                sources.add(SOURCES.resolve("Call.java").toString());
            }
            compile(module, sources);
        }
        assertThat(run(
                        TARGET,
                        List.of(
                                java("java"),
                                "-cp",
                                libraries() + File.pathSeparator + classes("moorings"),
                                "Call",
                                DEMO.running().address() + "/api/moorings/v1",
                                key())))
                .contains("all calls answered as the reference says");
    }

    /** A client team's own. */
    private static String key() throws Exception {
        return new Callers(DEMO.running()).holding("moorings.book");
    }

    private static List<String> generate(String module) throws Exception {
        Path made = TARGET.resolve("java-" + module);
        run(
                TARGET,
                List.of(
                        java("java"),
                        QUICK_START,
                        "-jar",
                        TOOLS.resolve("openapi-generator-cli.jar").toString(),
                        "generate",
                        "-g",
                        "java",
                        "-i",
                        TARGET.resolve(module + ".json").toString(),
                        "-o",
                        made.toString(),
                        "--library",
                        "native",
                        "--additional-properties",
                        "invokerPackage=marrowby,apiPackage=marrowby.api,modelPackage=marrowby.model,hideGenerationTimestamp=true",
                        "--global-property",
                        "apis,models,supportingFiles,apiTests=false,modelTests=false,apiDocs=false,modelDocs=false"));
        try (Stream<Path> files = Files.walk(made.resolve("src/main/java"))) {
            return new ArrayList<>(files.map(Path::toString)
                    .filter(file -> file.endsWith(".java"))
                    .toList());
        }
    }

    private static void compile(String module, List<String> sources) throws Exception {
        List<String> command = new ArrayList<>(List.of(
                java("javac"), "-J" + QUICK_START, "-nowarn", "-proc:none", "-cp", libraries(), "-d", classes(module)));
        command.addAll(sources);
        run(TARGET, command);
    }

    private static String java(String program) {
        return Path.of(System.getProperty("java.home"), "bin", program).toString();
    }

    private static String classes(String module) throws IOException {
        return Files.createDirectories(TARGET.resolve("classes-" + module)).toString();
    }

    private static String libraries() {
        return TOOLS.resolve("lib") + "/*";
    }
}
