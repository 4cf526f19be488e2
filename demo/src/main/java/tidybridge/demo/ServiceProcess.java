package tidybridge.demo;

import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/** The service as a process of its own, as it would run anywhere else. */
public final class ServiceProcess implements Part {

    private static final Duration START_LIMIT = Duration.ofMinutes(2);

    /** What the virtual machine ends with when there is no memory left. */
    private static final int OUT_OF_MEMORY = 3;

    /** How often it is started again before it has run for {@link #LONG_RUN}: what ends at once would end again. */
    private static final int MOST_REVIVALS = 3;

    private static final Duration LONG_RUN = Duration.ofMinutes(1);

    /** What a start takes, so that it need not be cleared several times meanwhile. */
    private static final int FIRST_HEAP_MEGABYTES = 160;

    /** Compilers give way to whoever is served, and to the start; the virtual machine would warn that others' priorities stay as they are. */
    private static final List<String> GENTLE_COMPILERS =
            List.of("-XX:ThreadPriorityPolicy=1", "-XX:CompilerThreadPriority=5", "-XX:-PrintWarnings");

    private static final String ARCHIVE = "service.jsa";

    private final ProcessBuilder builder;
    private final Path folder;
    private final int port;
    private final Path log;
    private volatile Process process;
    private Instant begun = Instant.now();
    private int revivals;

    private ServiceProcess(ProcessBuilder builder, Path folder, int port, Path log) throws IOException {
        this.builder = builder;
        this.folder = folder;
        this.port = port;
        this.log = log;
        this.process = begin();
    }

    private Process begin() throws IOException {
        Process begun = builder.start();
        Files.writeString(folder.resolve("service.pid"), String.valueOf(begun.pid()));
        return begun;
    }

    /** Fails in one sentence when something else listens on the port. */
    static void refuseTakenPort(int port) {
        try (ServerSocket socket = new ServerSocket()) {
            socket.setReuseAddress(true);
            socket.bind(new InetSocketAddress("127.0.0.1", port));
        } catch (IOException e) {
            throw new DemoFailure("Port " + port
                    + " is taken by another program; stop it, or choose another with TIDY_PORT=" + (port + 1) + ".");
        }
    }

    /**
     * Starts the service and waits until it listens.
     *
     * @param project whose {@code service/target} holds the program
     * @param workspace whose sources it uses
     * @param heapMegabytes the most heap it may use
     * @param folder takes the service's home, its log and its process number
     * @param more environment variables of the caller's own
     */
    public static ServiceProcess start(
            Path project,
            Path workspace,
            Path folder,
            int databasePort,
            int port,
            int heapMegabytes,
            Secrets secrets,
            Map<String, String> more)
            throws IOException {
        List<String> options =
                new ArrayList<>(archiving(folder.toAbsolutePath(), project, more.containsKey("TIDY_NODE")));
        options.addAll(GENTLE_COMPILERS);
        options.addAll(ownOptions());
        return start(project, workspace, folder, databasePort, port, heapMegabytes, secrets, more, options);
    }

    /** The same with options of the virtual machine, in place of those that keep a start short. */
    static ServiceProcess start(
            Path project,
            Path workspace,
            Path folder,
            int databasePort,
            int port,
            int heapMegabytes,
            Secrets secrets,
            Map<String, String> more,
            List<String> options)
            throws IOException {
        Path log = folder.resolve("service.log");
        List<String> command = new ArrayList<>(List.of(java()));
        command.addAll(options);
        command.addAll(List.of(
                "--enable-native-access=ALL-UNNAMED",
                "-Xms" + Math.min(FIRST_HEAP_MEGABYTES, heapMegabytes) + "m",
                "-Xmx" + heapMegabytes + "m",
                "-XX:+UseSerialGC",
                "-XX:+ExitOnOutOfMemoryError",
                // known by it as one of this demo's
                "-Dtidy.folder=" + folder.toAbsolutePath(),
                "-cp",
                classPath(project),
                "tidybridge.service.Main"));
        ProcessBuilder builder = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(
                        ProcessBuilder.Redirect.appendTo(OwnerOnly.file(log).toFile()));
        environment(builder.environment(), folder, databasePort, port, secrets);
        builder.environment().put("TIDY_WORKSPACE", workspace.toString());
        builder.environment().putAll(more);
        ServiceProcess service = new ServiceProcess(builder, folder, port, log);
        try {
            service.awaitListening();
        } catch (RuntimeException e) {
            service.close();
            throw e;
        }
        return service;
    }

    static String java() {
        return Path.of(System.getProperty("java.home"), "bin", "java").toString();
    }

    static Path program(Path project) {
        return project.resolve("service/target/service-0.1.0.jar").toAbsolutePath();
    }

    static String classPath(Path project) {
        Path program = program(project);
        return program + ":" + program.resolveSibling("lib") + "/*";
    }

    /**
     * A start is short with what {@link ServiceTraining} made beside the program. Without it the first run makes an archive of classes at its end, which
     * takes seconds: a node among several should be back soon, so it uses the one that a service alone has made.
     */
    private static List<String> archiving(Path folder, Path project, boolean amongSeveral) throws IOException {
        Path program = program(project);
        Path cache = ServiceTraining.cache(project);
        if (Files.exists(cache) && !isOld(cache, program)) {
            return List.of("-XX:AOTCache=" + cache, "-Xlog:aot=off");
        }
        List<String> options = new ArrayList<>(List.of("-Xshare:auto", "-Xlog:cds=off", "-Xlog:cds+dynamic=off"));
        if (amongSeveral) {
            Path archive = folder.resolveSibling(ARCHIVE);
            if (Files.exists(archive) && !isOld(archive, program)) {
                options.add("-XX:SharedArchiveFile=" + archive);
            }
            return options;
        }
        Path archive = folder.resolve(ARCHIVE);
        if (Files.exists(archive) && isOld(archive, program)) {
            // it would be passed over, and never made anew while it is there
            Files.delete(archive);
        }
        options.add("-XX:SharedArchiveFile=" + archive);
        options.add("-XX:+AutoCreateSharedArchive");
        return options;
    }

    /** True for an archive of classes that were built anew since. */
    static boolean isOld(Path archive, Path program) throws IOException {
        return Files.getLastModifiedTime(archive).compareTo(Files.getLastModifiedTime(program)) < 0;
    }

    /** More options for the service's virtual machine, as {@code ./tidy serve} takes them too. */
    private static List<String> ownOptions() {
        String options = System.getenv("TIDY_JVM");
        return options == null || options.isBlank()
                ? List.of()
                : List.of(options.strip().split("\\s+"));
    }

    private static void environment(
            Map<String, String> environment, Path folder, int databasePort, int port, Secrets secrets)
            throws IOException {
        environment.put("TIDY_PORT", String.valueOf(port));
        environment.put("TIDY_HOME", folder.resolve("home").toString());
        environment.put("TIDY_RECORDS_HOST", "127.0.0.1");
        environment.put("TIDY_RECORDS_PORT", String.valueOf(databasePort));
        environment.put("TIDY_RECORDS_SCHEMA", DemoDatabase.RECORDS_SCHEMA);
        environment.put("TIDY_RECORDS_USER", DemoDatabase.RECORDS_USER);
        environment.put("TIDY_RECORDS_PASSWORD", secrets.get("records"));
        environment.put("TIDY_RECORDS_SECRETENV", "TIDY_RECORDS_PASSWORD");
        environment.put("TIDY_RECORDS_OWNER", DemoDatabase.RECORDS_OWNER);
        environment.put("TIDY_RECORDS_OWNERPASSWORD", secrets.get("records-owner"));
        environment.put("TIDY_RECORDS_OWNERSECRETENV", "TIDY_RECORDS_OWNERPASSWORD");
        // whole, because a workspace of somebody's own may say nothing of it; the port is chosen anew at every start
        environment.put("TIDY_SOURCES_WATERWAYS_HOST", "127.0.0.1");
        environment.put("TIDY_SOURCES_WATERWAYS_PORT", String.valueOf(databasePort));
        environment.put("TIDY_SOURCES_WATERWAYS_SCHEMA", DemoDatabase.SOURCE_SCHEMA);
        environment.put("TIDY_SOURCES_WATERWAYS_USER", DemoDatabase.SOURCE_USER);
        environment.put("TIDY_SOURCES_WATERWAYS_SECRETENV", "WATERWAYS_PASSWORD");
        environment.put("TIDY_SOURCES_WATERWAYS_READONLY", "false");
        environment.put("WATERWAYS_PASSWORD", secrets.get("waterways"));
        environment.put("TIDY_SIGNUP", "on-request");
    }

    private void awaitListening() {
        Instant end = Instant.now().plus(START_LIMIT);
        while (process.isAlive() && Instant.now().isBefore(end)) {
            try (Socket socket = new Socket()) {
                socket.connect(new InetSocketAddress("127.0.0.1", port), 200);
                return;
            } catch (IOException e) {
                pause();
            }
        }
        throw new DemoFailure(
                process.isAlive()
                        ? "The service did not answer within " + START_LIMIT.toSeconds() + " s; see " + log + "."
                        : ending());
    }

    private static void pause() {
        try {
            Thread.sleep(25);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new DemoFailure("Interrupted while the service was starting.", e);
        }
    }

    /** Where it listens. */
    public String address() {
        return "http://127.0.0.1:" + port;
    }

    /** Its process number. */
    public long pid() {
        return process.pid();
    }

    @Override
    public boolean isRunning() {
        return process.isAlive();
    }

    /** A service that ran out of memory is started again, unless it does so at once. */
    @Override
    public boolean revive() {
        boolean ranLong = Duration.between(begun, Instant.now()).compareTo(LONG_RUN) > 0;
        revivals = ranLong ? 1 : revivals + 1;
        if (process.exitValue() != OUT_OF_MEMORY || revivals > MOST_REVIVALS) {
            return false;
        }
        System.out.println("The service ran out of memory and ended; it is started again. " + log + " says when.");
        return startAgain();
    }

    /** Starts it once more, whyever it ended; false when it cannot be started. */
    boolean startAgain() {
        try {
            begun = Instant.now();
            process = begin();
            return true;
        } catch (IOException e) {
            return false;
        }
    }

    @Override
    public String ending() {
        if (process.exitValue() == OUT_OF_MEMORY) {
            return "The service ran out of memory again and again; see " + log + ".";
        }
        try {
            List<String> lines = Files.readAllLines(log);
            for (int i = lines.size() - 1; i >= 0; i--) {
                if (lines.get(i).startsWith("tidy: ")) {
                    return lines.get(i).substring("tidy: ".length());
                }
            }
        } catch (IOException e) {
            return "The service ended, and its log cannot be read.";
        }
        return "The service ended; " + log + " says why.";
    }

    /** Tells it to end, and does not wait. */
    public void tellToEnd() {
        process.destroy();
    }

    /** Waits until it has ended, however long it takes to write down what it was told to. */
    void awaitEnd() throws InterruptedException {
        process.waitFor();
    }

    /** Ends it at once, as a machine does that loses its power. */
    public void kill() throws InterruptedException {
        process.destroyForcibly().waitFor();
    }

    @Override
    public void close() {
        process.destroy();
        try {
            if (!process.waitFor(20, TimeUnit.SECONDS)) {
                process.destroyForcibly();
            }
        } catch (InterruptedException e) {
            process.destroyForcibly();
            Thread.currentThread().interrupt();
        }
    }
}
