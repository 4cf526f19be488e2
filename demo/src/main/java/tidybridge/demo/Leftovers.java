package tidybridge.demo;

import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;

/**
 * The demo's processes, known by files with their numbers, so that a second start can tell a running demo from what a killed one
 * left behind. A number counts only while its process was started from this folder.
 */
final class Leftovers {

    private static final long PATIENCE_SECONDS = 20;

    private final Path folder;

    Leftovers(Path folder) {
        this.folder = folder;
    }

    /** Fails when a demo of this checkout runs already. */
    void refuseRunning() throws IOException {
        Optional<ProcessHandle> running = process(folder.resolve("demo.pid"));
        if (running.isPresent()
                && running.get().pid() != ProcessHandle.current().pid()) {
            throw new DemoFailure("The demo of this checkout runs already; type './tidy stop' to end it.");
        }
    }

    /** Stops a service or database that outlived its demo. */
    void stop() throws IOException {
        for (Path file : files()) {
            Optional<ProcessHandle> left = process(file);
            if (left.isPresent()) {
                end(left.get());
            }
        }
    }

    /** The database ends last. */
    private List<Path> files() throws IOException {
        List<Path> files = new ArrayList<>(List.of(folder.resolve("balancer.pid"), folder.resolve("service.pid")));
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> nodes = Files.newDirectoryStream(folder, "node-*")) {
                nodes.forEach(node -> files.add(node.resolve("service.pid")));
            }
        }
        files.add(folder.resolve("mariadb/mariadb.pid"));
        return files;
    }

    void claim() throws IOException {
        Files.writeString(
                folder.resolve("demo.pid"),
                String.valueOf(ProcessHandle.current().pid()));
        Files.deleteIfExists(folder.resolve("ready"));
    }

    void release() {
        try {
            Files.deleteIfExists(folder.resolve("ready"));
            Files.deleteIfExists(folder.resolve("demo.pid"));
        } catch (IOException e) {
            // the folder is gone already, and the files with it
        }
    }

    private static void end(ProcessHandle process) {
        process.destroy();
        try {
            process.onExit().get(PATIENCE_SECONDS, TimeUnit.SECONDS);
        } catch (TimeoutException | ExecutionException e) {
            process.destroyForcibly();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private Optional<ProcessHandle> process(Path file) throws IOException {
        if (!Files.exists(file)) {
            return Optional.empty();
        }
        String text = Files.readString(file).strip();
        if (!text.matches("\\d{1,10}")) {
            return Optional.empty();
        }
        return ProcessHandle.of(Long.parseLong(text)).filter(this::isOurs);
    }

    /** True when the process was started with a path in this folder, or in the folder around it, on its command line. */
    private boolean isOurs(ProcessHandle process) {
        Path commandLine = Path.of("/proc", String.valueOf(process.pid()), "cmdline");
        try {
            return Files.readString(commandLine).contains(String.valueOf(folder.getParent()));
        } catch (IOException e) {
            return false;
        }
    }
}
