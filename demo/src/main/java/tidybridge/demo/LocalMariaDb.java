package tidybridge.demo;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * A MariaDB server of this project's own: on loopback and a free port, with a data directory that nobody else uses. Never touches
 * the system's instance.
 */
public final class LocalMariaDb implements Part {

    /** What is added to a signal's number where a process's exit code is told. */
    private static final int ENDED_BY_SIGNAL = 128;

    private static final Duration START_LIMIT = Duration.ofSeconds(60);
    private static final List<String> PLACES =
            List.of("/usr/sbin", "/usr/bin", "/usr/libexec", "/usr/local/sbin", "/usr/local/bin");
    private static final String ADMINISTRATOR = "keeper";

    private final Path folder;
    private final Process process;
    private final int port;
    private final String password;
    private final List<String> options;

    private LocalMariaDb(Path folder, Process process, int port, String password, List<String> options) {
        this.folder = folder;
        this.process = process;
        this.port = port;
        this.password = password;
        this.options = options;
    }

    /**
     * Starts a server, creating its data directory first where there is none.
     *
     * @param folder holds the data directory, the log and the administrator's password; created when missing
     * @throws DemoFailure in one sentence when it cannot be started
     */
    public static LocalMariaDb start(Path folder) {
        return start(folder, List.of());
    }

    /** The same with more options for the server, now and whenever it is started again. */
    public static LocalMariaDb start(Path folder, List<String> options) {
        try {
            Path absolute = Files.createDirectories(folder).toAbsolutePath();
            String password = Secrets.in(absolute).get("mariadb-keeper");
            Path data = absolute.resolve("data");
            if (!Files.exists(data.resolve("created"))) {
                create(absolute, data, password, options);
            }
            return launch(absolute, data, password, freePort(), options);
        } catch (IOException e) {
            throw new DemoFailure(
                    "The folder " + folder + " cannot be used for the database: " + e.getMessage() + ".", e);
        }
    }

    private static void create(Path folder, Path data, String password, List<String> options) throws IOException {
        if (Files.exists(data)) {
            Folders.delete(data);
        }
        Files.createDirectories(
                data, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rwx------")));
        // the script takes a path with a space for two
        Path link = Files.createTempDirectory("tidy-mariadb").resolve("data");
        Files.createSymbolicLink(link, data.toAbsolutePath());
        List<String> command = new ArrayList<>(List.of(
                find("mariadb-install-db"),
                "--no-defaults",
                "--datadir=" + link,
                "--tmpdir=" + link.getParent(),
                "--auth-root-authentication-method=socket",
                "--skip-test-db"));
        command.addAll(asRoot());
        command.addAll(options);
        Path log = folder.resolve("create.log");
        int ended;
        try {
            ended = awaitExit(new ProcessBuilder(command)
                    .redirectErrorStream(true)
                    .redirectOutput(log.toFile())
                    .start());
        } finally {
            Files.delete(link);
            Files.delete(link.getParent());
        }
        if (ended != 0) {
            throw new DemoFailure(
                    "MariaDB could not create its data directory; " + log + " says why: " + lastLine(log));
        }
        Path initial = data.resolve("initial.sql");
        Files.writeString(
                initial,
                "create user if not exists " + ADMINISTRATOR + "@'127.0.0.1' identified by '" + password + "';\n"
                        + "grant all on *.* to " + ADMINISTRATOR + "@'127.0.0.1' with grant option;\n");
        List<String> once = new ArrayList<>(options);
        once.add("--init-file=" + initial);
        try (LocalMariaDb first = launch(folder, data, password, freePort(), once)) {
            first.connect("").close();
        } catch (SQLException e) {
            throw new DemoFailure("MariaDB's new data directory does not answer: " + e.getMessage(), e);
        }
        Files.delete(initial);
        Files.createFile(data.resolve("created"));
    }

    private static LocalMariaDb launch(Path folder, Path data, String password, int port, List<String> options)
            throws IOException {
        Path log = folder.resolve("mariadb.log");
        Files.deleteIfExists(log);
        // a server that starts removes the temporary tables in its folder, also those of another server that uses the
        // same one
        Path temporary = OwnerOnly.folder(folder.resolve("temporary"));
        List<String> command = new ArrayList<>(List.of(
                find("mariadbd"),
                "--no-defaults",
                "--datadir=" + data,
                "--tmpdir=" + temporary,
                "--socket=" + socket(port),
                "--port=" + port,
                "--bind-address=127.0.0.1",
                "--pid-file=" + folder.resolve("mariadb.pid"),
                "--log-error=" + log,
                "--skip-log-bin",
                "--skip-name-resolve",
                "--character-set-server=utf8mb4",
                "--collation-server=utf8mb4_general_ci",
                "--default-time-zone=+00:00",
                "--innodb-buffer-pool-size=256M",
                "--max-connections=200"));
        command.addAll(asRoot());
        command.addAll(options);
        Process process = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        LocalMariaDb server = new LocalMariaDb(folder, process, port, password, options);
        try {
            server.awaitReady(log);
        } catch (RuntimeException e) {
            server.close();
            throw e;
        }
        return server;
    }

    private void awaitReady(Path log) {
        Instant end = Instant.now().plus(START_LIMIT);
        while (true) {
            if (!process.isAlive()) {
                throw new DemoFailure("MariaDB stopped while starting; " + log + " says: " + lastError(log));
            }
            try {
                connect("").close();
                return;
            } catch (SQLException e) {
                if (Instant.now().isAfter(end)) {
                    throw new DemoFailure(
                            "MariaDB did not answer within " + START_LIMIT.toSeconds() + " s; see " + log + ".", e);
                }
            }
            pause();
        }
    }

    /** The loopback port it listens on. */
    public int port() {
        return port;
    }

    /** A connection with every right, for creating schemas and users and for looking at what happened. */
    public Connection connect(String schema) throws SQLException {
        Properties properties = new Properties();
        properties.setProperty("user", ADMINISTRATOR);
        properties.setProperty("password", password);
        properties.setProperty("useBulkStmts", "true");
        properties.setProperty("sslMode", "disable");
        return DriverManager.getConnection("jdbc:mariadb://127.0.0.1:" + port + "/" + schema, properties);
    }

    /** Freezes the server, so that it accepts connections and answers nothing; for tests of what callers see then. */
    public void freeze() {
        signal("STOP");
        while (!isStopped()) {
            pause();
        }
    }

    /** A signal takes a moment to reach every thread; the state of a stopped process is T. */
    private boolean isStopped() {
        try {
            String stat = Files.readString(Path.of("/proc", String.valueOf(process.pid()), "stat"));
            return stat.charAt(stat.lastIndexOf(')') + 2) == 'T';
        } catch (IOException e) {
            throw new DemoFailure("MariaDB's process cannot be looked at.", e);
        }
    }

    /** Ends a {@link #freeze}. */
    public void thaw() {
        signal("CONT");
    }

    /** Kills the server as a power cut would. */
    public void kill() {
        process.destroyForcibly();
        awaitExit(process);
    }

    private void signal(String name) {
        try {
            awaitExit(new ProcessBuilder("kill", "-" + name, String.valueOf(process.pid())).start());
        } catch (IOException e) {
            throw new DemoFailure("The signal " + name + " could not be sent to MariaDB.", e);
        }
    }

    /** Starts the same data directory again on the same port, after {@link #kill} or {@link #close}. */
    public LocalMariaDb restart() {
        try {
            return launch(folder, folder.resolve("data"), password, port, options);
        } catch (IOException e) {
            throw new DemoFailure("MariaDB could not be started again: " + e.getMessage(), e);
        }
    }

    @Override
    public boolean isRunning() {
        return process.isAlive();
    }

    @Override
    public String ending() {
        int signal = process.exitValue() - ENDED_BY_SIGNAL;
        if (signal > 0) {
            return "MariaDB was ended from outside, by signal " + signal
                    + "; './tidy demo' starts it again with its data.";
        }
        return "MariaDB ended by itself; " + folder.resolve("mariadb.log") + " says: "
                + lastError(folder.resolve("mariadb.log"));
    }

    /** Stops the server and waits for it; its data stays. */
    @Override
    public void close() {
        process.destroy();
        try {
            if (!process.waitFor(30, TimeUnit.SECONDS)) {
                process.destroyForcibly();
            }
        } catch (InterruptedException e) {
            process.destroyForcibly();
            Thread.currentThread().interrupt();
        }
    }

    /** The socket lies in the temporary folder, because a socket's path may not be longer than 107 bytes. */
    private static Path socket(int port) {
        return Path.of(System.getProperty("java.io.tmpdir"), "tidy-mariadb-" + port + ".sock");
    }

    private static List<String> asRoot() {
        return System.getProperty("user.name").equals("root") ? List.of("--user=root") : List.of();
    }

    private static String find(String program) {
        List<String> places = new ArrayList<>(PLACES);
        String path = System.getenv("PATH");
        if (path != null) {
            places.addAll(List.of(path.split(":")));
        }
        for (String place : places) {
            Path file = Path.of(place, program);
            if (Files.isExecutable(file)) {
                return file.toString();
            }
        }
        throw new DemoFailure("The program " + program + " is missing; type: sudo apt-get install mariadb-server");
    }

    private static int freePort() throws IOException {
        try (ServerSocket socket = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return socket.getLocalPort();
        }
    }

    private static int awaitExit(Process process) {
        try {
            return process.waitFor();
        } catch (InterruptedException e) {
            process.destroyForcibly();
            Thread.currentThread().interrupt();
            return -1;
        }
    }

    private static void pause() {
        try {
            Thread.sleep(50);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new DemoFailure("Interrupted while waiting for MariaDB.", e);
        }
    }

    private static String lastError(Path log) {
        @Nullable String found = null;
        try {
            for (String line : Files.readAllLines(log)) {
                if (line.contains("[ERROR]") && !line.contains("Aborting")) {
                    found = found == null ? line.substring(line.indexOf("[ERROR]") + 8) : found;
                }
            }
        } catch (IOException e) {
            return "nothing";
        }
        return found == null ? lastLine(log) : found;
    }

    private static String lastLine(Path log) {
        try {
            List<String> lines = Files.readAllLines(log).stream()
                    .filter(line -> !line.isBlank())
                    .toList();
            return lines.isEmpty() ? "nothing" : lines.getLast();
        } catch (IOException e) {
            return "nothing";
        }
    }
}
