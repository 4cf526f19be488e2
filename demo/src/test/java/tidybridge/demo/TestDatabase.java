package tidybridge.demo;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** One real MariaDB for all tests of a run, in the module's own target folder, with the small demo data. */
public final class TestDatabase {

    /** The password of every user the tests create. */
    public static final String PASSWORD = "for tests only";

    private static volatile LocalMariaDb server;

    private TestDatabase() {}

    /** The running server; started by the first test that asks. */
    public static synchronized LocalMariaDb server() {
        if (server == null) {
            server = LocalMariaDb.start(Path.of("target", "mariadb"));
            Runtime.getRuntime().addShutdownHook(new Thread(() -> server.close()));
            try {
                DemoDatabase.createSource(server, PASSWORD, DemoSize.SMALL, percent -> {});
            } catch (SQLException | java.io.IOException e) {
                throw new IllegalStateException("the demo data could not be loaded", e);
            }
        }
        return server;
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

    /** The first column of a query on the demo schema, as texts. */
    public static List<String> column(String sql) throws SQLException {
        try (Connection connection = server().connect(DemoDatabase.SOURCE_SCHEMA);
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
            List<String> values = new ArrayList<>();
            while (rows.next()) {
                values.add(rows.getString(1));
            }
            return values;
        }
    }
}
