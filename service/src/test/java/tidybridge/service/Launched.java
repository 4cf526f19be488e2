package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * The command line as a process, started as people start it, beside a service of the tests.
 *
 * @param signIns the file that keeps where somebody is signed in
 * @param input a file for its standard input; null for none
 */
record Launched(
        RunningService service, Path signIns, @Nullable Path input) {

    Launched(RunningService service) {
        this(service, Path.of("target", "no-sign-ins.json"), null);
    }

    private static final Path LAUNCHER = Path.of("..", "tidy").toAbsolutePath().normalize();

    /** How a process ended. */
    record Ended(int code, String out, String err) {}

    /** The same with lines on its standard input. */
    Ended tidyReading(String input, String... words) throws Exception {
        Path in = Files.createTempFile("tidy", ".in");
        Files.writeString(in, input);
        try {
            return new Launched(service, signIns, in).tidy(words);
        } finally {
            Files.delete(in);
        }
    }

    Ended tidy(String... words) throws Exception {
        Path out = Files.createTempFile("tidy", ".out");
        Path err = Files.createTempFile("tidy", ".err");
        int code = run(out, err, words);
        Ended ended = new Ended(
                code, Files.readString(out, StandardCharsets.UTF_8), Files.readString(err, StandardCharsets.UTF_8));
        Files.delete(out);
        Files.delete(err);
        return ended;
    }

    /** What a command prints, byte for byte. */
    byte[] printed(String... words) throws Exception {
        Path out = Files.createTempFile("tidy", ".out");
        run(out, Path.of("/dev/null"), words);
        byte[] bytes = Files.readAllBytes(out);
        Files.delete(out);
        return bytes;
    }

    /** Begins a command that goes on until somebody ends it; what it prints goes into one file. */
    Process begin(Path out, String... words) throws Exception {
        return prepared(words)
                .redirectErrorStream(true)
                .redirectOutput(out.toFile())
                .start();
    }

    private int run(Path out, Path err, String... words) throws Exception {
        Process process = prepared(words)
                .redirectOutput(out.toFile())
                .redirectError(err.toFile())
                .start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        return process.exitValue();
    }

    private ProcessBuilder prepared(String... words) {
        List<String> command = new ArrayList<>(List.of(LAUNCHER.toString()));
        command.addAll(List.of(words));
        ProcessBuilder builder = new ProcessBuilder(command);
        builder.environment().put("TIDY_BUILT", "1");
        builder.environment().put("TIDY_URL", service.address());
        builder.environment().put("TIDY_HOME", service.home().toString());
        // whoever runs the tests may be signed in somewhere
        builder.environment().put("TIDY_SIGN_INS", signIns.toAbsolutePath().toString());
        if (input != null) {
            builder.redirectInput(input.toFile());
        }
        return builder;
    }
}
