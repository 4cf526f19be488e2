package tidybridge.demo;

import java.io.IOException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.function.IntConsumer;

/** The two schemas on a {@link LocalMariaDb}, each with a user of its own that can do what its job needs and no more. */
public final class DemoDatabase {

    public static final String SOURCE_SCHEMA = "waterways";
    public static final String SOURCE_USER = "waterways_service";
    public static final String RECORDS_SCHEMA = "tidy_records";
    public static final String RECORDS_USER = "tidy_records";
    public static final String RECORDS_OWNER = "tidy_owner";

    /** Counts the changes of schema.sql, so that a database of an earlier one is made anew. */
    static final int EDITION = 5;

    /** What the demo's modules write to. */
    private static final List<String> WRITTEN = List.of("booking", "lock_passage", "toll_charge", "gauge_reading");

    private DemoDatabase() {}

    /** Creates the record schema if it is not there, the user who owns it, and the service's own user, who is granted nothing yet. */
    public static void createRecords(LocalMariaDb server, String password, String ownerPassword) throws SQLException {
        try (Connection connection = server.connect("");
                Statement statement = connection.createStatement()) {
            statement.execute("create database if not exists " + RECORDS_SCHEMA);
            user(statement, RECORDS_OWNER, ownerPassword);
            statement.execute(
                    "grant select, insert, update, delete, create, alter, drop, index, references, trigger on "
                            + RECORDS_SCHEMA + ".* to " + RECORDS_OWNER + "@'127.0.0.1' with grant option");
            user(statement, RECORDS_USER, password);
        }
    }

    /** Creates and fills the demo schema unless that was done before, and its user, who may read, run routines, and write to some tables. */
    public static void createSource(LocalMariaDb server, String password, DemoSize size, IntConsumer progress)
            throws SQLException, IOException {
        try (Connection connection = server.connect("");
                Statement statement = connection.createStatement()) {
            if (!isLoaded(statement)) {
                statement.execute("drop database if exists " + SOURCE_SCHEMA);
                statement.execute("create database " + SOURCE_SCHEMA);
                statement.execute("use " + SOURCE_SCHEMA);
                DemoData.load(connection, size, progress);
                statement.execute(
                        "create table loaded (edition int not null primary key) select " + EDITION + " as edition");
            }
            user(statement, SOURCE_USER, password);
            statement.execute(
                    "grant select, execute, show view on " + SOURCE_SCHEMA + ".* to " + SOURCE_USER + "@'127.0.0.1'");
            for (String table : WRITTEN) {
                statement.execute("grant insert, update, delete on " + SOURCE_SCHEMA + "." + table + " to "
                        + SOURCE_USER + "@'127.0.0.1'");
            }
        }
    }

    /** A table that is created last tells a finished load from one that was interrupted. */
    private static boolean isLoaded(Statement statement) throws SQLException {
        try (ResultSet found = statement.executeQuery("select 1 from information_schema.columns where table_schema = '"
                + SOURCE_SCHEMA + "' and table_name = 'loaded' and column_name = 'edition'")) {
            if (!found.next()) {
                return false;
            }
        }
        try (ResultSet edition = statement.executeQuery("select edition from " + SOURCE_SCHEMA + ".loaded")) {
            return edition.next() && edition.getInt(1) == EDITION;
        }
    }

    /**
     * Lets the source's user write outcomes into the record store, once the service has made its table, so that the answer to an
     * idempotency key is kept by the same transaction as the change.
     */
    public static void shareOutcomes(LocalMariaDb server) throws SQLException {
        try (Connection connection = server.connect("");
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "grant select, update on " + RECORDS_SCHEMA + ".call_outcome to " + SOURCE_USER + "@'127.0.0.1'");
        }
    }

    private static void user(Statement statement, String name, String password) throws SQLException {
        statement.execute("create or replace user " + name + "@'127.0.0.1' identified by '" + password + "'");
    }
}
