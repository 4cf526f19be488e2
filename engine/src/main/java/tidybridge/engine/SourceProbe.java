package tidybridge.engine;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.UnknownHostException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import tidybridge.core.definition.Transport;

/**
 * Tries a source step by step on a connection of its own, so that the step that fails is the one to be mended. Stops at the first
 * that fails.
 */
public final class SourceProbe {

    private static final Duration LIMIT = Duration.ofSeconds(5);

    private final SourceSettings settings;
    private final Database database;
    private final List<Step> steps = new ArrayList<>();
    private long begun;

    private SourceProbe(SourceSettings settings) {
        this.settings = settings;
        this.database = Databases.of(settings.kind());
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
        try (Connection connection = database.sessions().enter(settings, LIMIT)) {
            if (settings.transport() == Transport.PLAIN) {
                pass(What.TLS, "Not asked for; the connection is not encrypted.");
            } else {
                pass(What.TLS, "Encrypted with " + database.sessions().encryption(connection) + ".");
            }
            pass(What.CREDENTIALS, "'" + settings.user() + "' may enter.");
            look(connection);
        } catch (SQLException e) {
            refused(e);
        }
    }

    private void refused(SQLException e) {
        String reason = database.failures().reason(e);
        if (database.failures().isUserRefused(e)) {
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

    private void look(Connection connection) {
        begin();
        try {
            database.sessions().chooseSchema(connection, settings.schema());
            pass(What.SCHEMA, "The schema " + settings.schema() + " is there.");
        } catch (SQLException e) {
            fail(
                    What.SCHEMA,
                    database.failures().isSchemaUnknown(e)
                            ? "There is no schema '" + settings.schema() + "'; mend 'schema'."
                            : "'" + settings.user() + "' has no privilege on '" + settings.schema()
                                    + "', if there is such a schema; mend 'schema', or grant one.");
            return;
        }
        begin();
        try {
            int things = database.catalog().count(connection, settings.schema());
            if (things == 0) {
                fail(
                        What.PRIVILEGE,
                        "'" + settings.user() + "' sees no table, view or routine in '" + settings.schema()
                                + "'; grant select or execute on what its statements need.");
            } else {
                pass(
                        What.PRIVILEGE,
                        "'" + settings.user() + "' sees " + things
                                + (things == 1 ? " table, view or routine." : " tables, views and routines."));
            }
        } catch (SQLException e) {
            fail(
                    What.PRIVILEGE,
                    "The catalog cannot be read: " + database.failures().reason(e) + ".");
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
