package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import tidybridge.cli.Surroundings;
import tidybridge.cli.Tidy;
import tidybridge.demo.Folders;
import tidybridge.demo.TestFolder;

/**
 * The command line beside a service of the tests. It runs within this process, as the launcher's own process would run it; a few commands are
 * started as people start them, by {@link #asProcess}.
 *
 * @param signIns the file that keeps where somebody is signed in
 * @param process true for commands that the launcher starts
 */
record Launched(RunningService service, Path signIns, boolean process) {

    private static final Path LAUNCHER = Path.of("..", "tidy").toAbsolutePath().normalize();
    private static final Path NO_SIGN_INS = TestFolder.of("no-sign-ins.json");

    Launched(RunningService service) {
        this(service, NO_SIGN_INS, false);
    }

    Launched(RunningService service, Path signIns) {
        this(service, signIns, false);
    }

    /** The same, started by the launcher. */
    Launched asProcess() {
        return new Launched(service, signIns, true);
    }

    /** How a command ended. */
    record Ended(int code, String out, String err) {}

    Ended tidy(String... words) throws Exception {
        return tidyReading("", words);
    }

    /** The same with lines on its standard input. */
    Ended tidyReading(String input, String... words) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ByteArrayOutputStream err = new ByteArrayOutputStream();
        int code = process ? start(input, out, err, words) : runHere(input, out, err, words);
        return new Ended(code, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
    }

    /** What a command prints, byte for byte. */
    byte[] printed(String... words) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        start("", out, new ByteArrayOutputStream(), words);
        return out.toByteArray();
    }

    /** Begins a command that goes on until somebody ends it; what it prints goes into one file. */
    Process begin(Path out, String... words) throws Exception {
        return prepared(words)
                .redirectErrorStream(true)
                .redirectOutput(out.toFile())
                .start();
    }

    private int runHere(String input, OutputStream out, OutputStream err, String... words) {
        return Tidy.run(
                words,
                new Surroundings(
                        environment(),
                        new ByteArrayInputStream(input.getBytes(StandardCharsets.UTF_8)),
                        new PrintStream(out, true, StandardCharsets.UTF_8),
                        new PrintStream(err, true, StandardCharsets.UTF_8)));
    }

    private int start(String input, OutputStream out, OutputStream err, String... words) throws Exception {
        Path folder = Files.createTempDirectory("tidy");
        Path in = Files.writeString(folder.resolve("in"), input);
        try {
            Process process = prepared(words)
                    .redirectInput(in.toFile())
                    .redirectOutput(folder.resolve("out").toFile())
                    .redirectError(folder.resolve("err").toFile())
                    .start();
            assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
            Files.copy(folder.resolve("out"), out);
            Files.copy(folder.resolve("err"), err);
            return process.exitValue();
        } finally {
            Folders.delete(folder);
        }
    }

    private ProcessBuilder prepared(String... words) {
        List<String> command = new ArrayList<>(List.of(LAUNCHER.toString()));
        command.addAll(List.of(words));
        ProcessBuilder builder = new ProcessBuilder(command);
        builder.environment().put("TIDY_BUILT", "1");
        builder.environment().putAll(environment());
        return builder;
    }

    /** Whoever runs the tests may be signed in somewhere. */
    private Map<String, String> environment() {
        return Map.of(
                "TIDY_URL",
                service.address(),
                "TIDY_HOME",
                service.home().toString(),
                "TIDY_SIGN_INS",
                signIns.toAbsolutePath().toString());
    }
}
