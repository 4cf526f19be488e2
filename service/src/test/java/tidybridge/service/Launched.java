package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The command line as a process, started as people start it, beside a service of the tests. */
record Launched(RunningService service) {

    private static final Path LAUNCHER = Path.of("..", "tidy").toAbsolutePath().normalize();

    /** How a process ended. */
    record Ended(int code, String out, String err) {}

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

    private int run(Path out, Path err, String... words) throws Exception {
        List<String> command = new ArrayList<>(List.of(LAUNCHER.toString()));
        command.addAll(List.of(words));
        ProcessBuilder builder = new ProcessBuilder(command);
        builder.environment().put("TIDY_BUILT", "1");
        builder.environment().put("TIDY_URL", service.address());
        builder.environment().put("TIDY_HOME", service.home().toString());
        Process process =
                builder.redirectOutput(out.toFile()).redirectError(err.toFile()).start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        return process.exitValue();
    }
}
