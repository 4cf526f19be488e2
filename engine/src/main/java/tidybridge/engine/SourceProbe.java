package tidybridge.engine;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.UnknownHostException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import org.mariadb.jdbc.Driver;
import tidybridge.core.definition.Transport;

/**
 * Tries a source step by step on a connection of its own, so that the step that fails is the one to be mended. Stops at the first
 * that fails.
 */
public final class SourceProbe {

    private static final Duration LIMIT = Duration.ofSeconds(5);

    /** No such schema; no privilege on the schema; wrong user or password. */
    private static final int SCHEMA_UNKNOWN = 1049;

    private static final int SCHEMA_DENIED = 1044;
    private static final int USER_DENIED = 1045;

    private final SourceSettings settings;
    private final List<Step> steps = new ArrayList<>();
    private long begun;

    private SourceProbe(SourceSettings settings) {
        this.settings = settings;
    }

    /** What is tried, in this order. */
    public enum What {
        NAME,
        PORT,
        TLS,
        CREDENTIALS,
        SCHEMA,
        PRIVILEGE
    }

    /**
     * The outcome of one step.
     *
     * @param detail one sentence: what was found, or what is wrong and what to do
     */
    public record Step(What what, boolean passed, String detail, long millis) {}

    /** Runs the steps; the last one is the one that failed, or all of them passed. */
    public static List<Step> run(SourceSettings settings) {
        SourceProbe probe = new SourceProbe(settings);
        probe.run();
        return List.copyOf(probe.steps);
    }

    private void run() {
        begin();
        try {
            InetAddress address = InetAddress.getByName(settings.host());
            pass(What.NAME, settings.host() + " is " + address.getHostAddress() + ".");
        } catch (UnknownHostException e) {
            fail(What.NAME, "No machine is known as '" + settings.host() + "'; mend 'host'.");
            return;
        }
        if (portAnswers()) {
            enter();
        }
    }

    private boolean portAnswers() {
        begin();
        try (Socket socket = new Socket()) {
            socket.connect(new InetSocketAddress(settings.host(), settings.port()), (int) LIMIT.toMillis());
            pass(What.PORT, "Something listens on port " + settings.port() + ".");
            return true;
        } catch (IOException e) {
            fail(
                    What.PORT,
                    "Nothing answers on port " + settings.port() + " of " + settings.host()
                            + "; is the database running, and does a firewall let this machine through?");
            return false;
        }
    }

    private void enter() {
        begin();
        try (Connection connection = connect()) {
            if (settings.transport() == Transport.PLAIN) {
                pass(What.TLS, "Not asked for; the connection is not encrypted.");
            } else {
                pass(What.TLS, "Encrypted with " + protocol(connection) + ".");
            }
            pass(What.CREDENTIALS, "'" + settings.user() + "' may enter.");
            look(connection);
        } catch (SQLException e) {
            refused(e);
        }
    }

    private Connection connect() throws SQLException {
        Properties properties = new Properties();
        properties.putAll(Source.connectionProperties(settings));
        properties.setProperty("user", settings.user());
        properties.setProperty("password", settings.secret());
        properties.setProperty("connectTimeout", String.valueOf(LIMIT.toMillis()));
        properties.setProperty("socketTimeout", String.valueOf(LIMIT.toMillis()));
        String url = "jdbc:mariadb://" + settings.host() + ":" + settings.port() + "/";
        Connection connection = new Driver().connect(url, properties);
        if (connection == null) {
            throw new SQLException("the driver does not know " + url);
        }
        connection.setReadOnly(true);
        return connection;
    }

    private void refused(SQLException e) {
        String reason = MariaDbFailures.reason(e);
        if (e.getErrorCode() == USER_DENIED || e.getErrorCode() == SCHEMA_DENIED) {
            pass(What.TLS, settings.transport() == Transport.PLAIN ? "Not asked for." : "Encrypted.");
            fail(
                    What.CREDENTIALS,
                    "The database does not let '" + settings.user()
                            + "' in; check the user, the secret, and from which machines the user may come.");
        } else if (settings.transport() != Transport.PLAIN) {
            fail(
                    What.TLS,
                    "The connection cannot be encrypted as asked: " + reason
                            + ". Check 'transport' and 'certificate'.");
        } else {
            pass(What.TLS, "Not asked for.");
            fail(What.CREDENTIALS, "The database ended the connection: " + reason + ".");
        }
    }

    private static String protocol(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("show session status like 'Ssl_version'")) {
            return row.next() ? row.getString(2) : "an unknown protocol";
        }
    }

    private void look(Connection connection) {
        begin();
        try {
            connection.setCatalog(settings.schema());
            pass(What.SCHEMA, "The schema " + settings.schema() + " is there.");
        } catch (SQLException e) {
            fail(
                    What.SCHEMA,
                    e.getErrorCode() == SCHEMA_UNKNOWN
                            ? "There is no schema '" + settings.schema() + "'; mend 'schema'."
                            : "'" + settings.user() + "' has no privilege on '" + settings.schema()
                                    + "', if there is such a schema; mend 'schema', or grant one.");
            return;
        }
        begin();
        try {
            int things = count(connection);
            if (things == 0) {
                fail(
                        What.PRIVILEGE,
                        "'" + settings.user() + "' sees no table, view or routine in '" + settings.schema()
                                + "'; grant select or execute on what its statements need.");
            } else {
                pass(What.PRIVILEGE, "'" + settings.user() + "' sees " + things + " tables, views and routines.");
            }
        } catch (SQLException e) {
            fail(What.PRIVILEGE, "The catalog cannot be read: " + MariaDbFailures.reason(e) + ".");
        }
    }

    private int count(Connection connection) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("""
                select (select count(*) from information_schema.tables where table_schema = ?)
                  + (select count(*) from information_schema.routines where routine_schema = ?)""")) {
            statement.setString(1, settings.schema());
            statement.setString(2, settings.schema());
            try (ResultSet row = statement.executeQuery()) {
                return row.next() ? row.getInt(1) : 0;
            }
        }
    }

    private void begin() {
        begun = System.nanoTime();
    }

    private void pass(What what, String detail) {
        steps.add(new Step(what, true, detail, millis()));
    }

    private void fail(What what, String detail) {
        steps.add(new Step(what, false, detail, millis()));
    }

    private long millis() {
        return (System.nanoTime() - begun) / 1_000_000;
    }
}
