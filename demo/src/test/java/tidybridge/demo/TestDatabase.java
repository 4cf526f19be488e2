package tidybridge.demo;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One real MariaDB for all tests of a process, with the small demo data. It is a copy of an installation that is made once for all modules, and
 * lies in memory where there is room: what it holds need not outlive the machine.
 */
public final class TestDatabase {

    /** The password of every user the tests create. */
    public static final String PASSWORD = "for tests only";

    private static final Path PATTERN =
            Path.of("..", "target", "test-database").toAbsolutePath().normalize();
    private static final Path MEMORY = Path.of("/dev/shm");
    private static final long NEEDED_BYTES = 2L * 1024 * 1024 * 1024;

    /** Nothing is written twice, and nothing waits for a disk; a server that is killed still has what was acknowledged. */
    private static final List<String> OPTIONS = List.of(
            "--innodb-flush-log-at-trx-commit=2",
            "--skip-innodb-doublewrite",
            "--innodb-log-file-size=32M",
            "--innodb-fast-shutdown=1");

    private static volatile LocalMariaDb server;
    private static @Nullable Connection looking;

    private TestDatabase() {}

    /** The running server; started by the first test that asks. */
    public static synchronized LocalMariaDb server() {
        if (server == null) {
            server = start("mariadb");
        }
        return server;
    }

    /** Starts another one, which ends with the tests. */
    public static LocalMariaDb start(String name) {
        try {
            Path folder = folder(name);
            Folders.delete(folder);
            copyPattern(folder);
            LocalMariaDb started = LocalMariaDb.start(folder, OPTIONS);
            Runtime.getRuntime().addShutdownHook(new Thread(() -> end(folder)));
            return started;
        } catch (IOException | SQLException e) {
            throw new IllegalStateException("the demo data could not be loaded", e);
        }
    }

    private static Path folder(String name) throws IOException {
        Path own = TestFolder.of(name).toAbsolutePath().normalize();
        if (!Files.isWritable(MEMORY) || Files.getFileStore(MEMORY).getUsableSpace() < NEEDED_BYTES) {
            return Files.createDirectories(own.getParent()).resolve(name);
        }
        Path parent = MEMORY.resolve(
                "tidy-tests-" + Integer.toHexString(own.toString().hashCode()));
        end(parent.resolve(name));
        return Files.createDirectories(parent).resolve(name);
    }

    /** Whoever runs tests at the same time, in another process, waits for the one who makes it. */
    private static void copyPattern(Path folder) throws IOException, SQLException {
        Files.createDirectories(PATTERN.getParent());
        Path finished = PATTERN.resolve("edition-" + DemoDatabase.EDITION);
        try (FileChannel channel = FileChannel.open(
                        PATTERN.resolveSibling("test-database.lock"),
                        StandardOpenOption.CREATE,
                        StandardOpenOption.WRITE);
                FileLock held = channel.lock()) {
            if (!Files.exists(finished)) {
                Folders.delete(PATTERN);
                try (LocalMariaDb made = LocalMariaDb.start(PATTERN, OPTIONS)) {
                    DemoDatabase.createSource(made, PASSWORD, DemoSize.SMALL, percent -> {});
                }
                Files.createFile(finished);
            }
            Folders.copy(PATTERN, folder);
        }
    }

    /** Ends a server by its folder, also one that an earlier process left behind when it was killed, and forgets what it held. */
    private static void end(Path folder) {
        try {
            Path number = folder.resolve("mariadb.pid");
            if (Files.exists(number)) {
                ProcessHandle.of(Long.parseLong(Files.readString(number).strip()))
                        .filter(process -> isServerOf(process, folder))
                        .filter(ProcessHandle::destroyForcibly)
                        .ifPresent(process -> process.onExit().join());
            }
            Folders.delete(folder);
        } catch (IOException e) {
            throw new IllegalStateException("the folder " + folder + " could not be left as it was", e);
        }
    }

    private static boolean isServerOf(ProcessHandle process, Path folder) {
        try {
            return Files.readString(Path.of("/proc", String.valueOf(process.pid()), "cmdline"))
                    .contains(folder.toString());
        } catch (IOException e) {
            return false;
        }
    }

    /** An empty record schema, whatever an earlier test left in it. */
    public static void emptyRecords() throws SQLException {
        emptyRecords(DemoDatabase.RECORDS_SCHEMA);
    }

    /** An empty record schema of another name, with a user of the same name, for a service beside those that use the usual one. */
    public static void emptyRecords(String schema) throws SQLException {
        execute(
                "",
                "drop database if exists " + schema,
                "create database " + schema,
                "create or replace user " + schema + "@'127.0.0.1' identified by '" + PASSWORD + "'",
                "grant all on " + schema + ".* to " + schema + "@'127.0.0.1'");
    }

    /** Kills the server and starts it again on the same port after doing something without it. */
    public static synchronized void without(ThrowingRunnable task) throws Exception {
        server().kill();
        looking = null;
        try {
            task.run();
        } finally {
            server = server.restart();
        }
    }

    /** Work that may throw. */
    public interface ThrowingRunnable {
        void run() throws Exception;
    }

    /** Runs statements with every right. */
    public static void execute(String schema, String... statements) throws SQLException {
        try (Connection connection = server().connect(schema);
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
    }

    /** The first column of a query on the demo schema, as texts. Queries share a connection, which changes nothing. */
    public static synchronized List<String> column(String sql) throws SQLException {
        if (looking == null || looking.isClosed()) {
            looking = server().connect(DemoDatabase.SOURCE_SCHEMA);
        }
        try (Statement statement = looking.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
            List<String> values = new ArrayList<>();
            while (rows.next()) {
                values.add(rows.getString(1));
            }
            return values;
        }
    }
}
