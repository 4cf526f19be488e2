package tidybridge.bench;

import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/** One of the three servers, in a process of its own with the same heap and collector. */
final class Contestant implements AutoCloseable {

    private static final int START_SECONDS = 60;

    private final String name;
    private final int port;
    private final Process process;

    private Contestant(String name, int port, Process process) {
        this.name = name;
        this.port = port;
        this.process = process;
    }

    static Contestant start(
            String name, int port, Path log, Map<String, String> environment, List<String> mainAndArguments)
            throws IOException, InterruptedException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx512m",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path")));
        command.addAll(mainAndArguments);
        ProcessBuilder builder =
                new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(log.toFile());
        builder.environment().putAll(environment);
        Contestant contestant = new Contestant(name, port, builder.start());
        contestant.awaitListening(log);
        return contestant;
    }

    private void awaitListening(Path log) throws InterruptedException {
        for (int i = 0; i < START_SECONDS * 20 && process.isAlive(); i++) {
            try (Socket socket = new Socket()) {
                socket.connect(new InetSocketAddress("127.0.0.1", port), 200);
                return;
            } catch (IOException e) {
                TimeUnit.MILLISECONDS.sleep(50);
            }
        }
        process.destroyForcibly();
        throw new IllegalStateException("The " + name + " did not start; see " + log + ".");
    }

    long pid() {
        return process.pid();
    }

    @Override
    public void close() {
        process.destroyForcibly();
    }
}
