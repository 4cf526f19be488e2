package tidybridge.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The statements prepared on each connection, kept open for its life and found by their text. The driver's own cache reads the
 * whole text anew at every call; this one compares one reference.
 *
 * <p>Thread-safe as long as a connection is used by one thread at a time, as a pool sees to.
 */
final class PreparedStatements {

    /** The most statements one connection keeps; the one unused for longest makes room. */
    static final int MOST = 300;

    /** How many chars the texts of those may have together; the database keeps more for a long one too. */
    static final long MOST_CHARS = 300_000;

    private final int connections;
    private final RoutineCalls routines;
    private final Map<Connection, ConnectionStatements> byConnection = new ConcurrentHashMap<>();

    /**
     * Makes a cache.
     *
     * @param connections the most the pool holds at a time
     * @param routines tells which statements run code of the database's own
     */
    PreparedStatements(int connections, RoutineCalls routines) {
        this.connections = connections;
        this.routines = routines;
    }

    /** How a statement is prepared. */
    enum Way {
        QUERY,
        /** Tells the numbers that the database gave to rows. */
        CHANGE,
        CALL
    }

    /** A statement ready to run, and whether it runs a stored routine. */
    private record Kept(PreparedStatement statement, boolean runsRoutine) {}

    /** A connection's statements, the least recently used first. */
    private static final class ConnectionStatements extends LinkedHashMap<String, Kept> {
        private long chars;

        ConnectionStatements() {
            super(32, 0.75f, true);
        }

        /** Keeps one that is not there yet, and closes those unused for longest to make room; never the new one itself. */
        void keep(String sql, Kept kept) {
            put(sql, kept);
            chars += sql.length();
            Iterator<Map.Entry<String, Kept>> eldest = entrySet().iterator();
            while (size() > MOST || chars > MOST_CHARS && size() > 1) {
                Map.Entry<String, Kept> entry = eldest.next();
                chars -= entry.getKey().length();
                eldest.remove();
                close(entry.getValue());
            }
        }

        private static void close(Kept kept) {
            try {
                kept.statement().close();
            } catch (SQLException e) {
                // the connection is gone, and its statements with it
            }
        }
    }

    /**
     * The statement of that text on a lent connection, prepared when it is not yet. A text is always prepared in the same way. One that runs
     * a routine has the connection given back as new.
     */
    PreparedStatement get(Lease lease, String sql, Way way) throws SQLException {
        Connection connection = lease.physical();
        ConnectionStatements kept = byConnection.get(connection);
        if (kept == null) {
            if (byConnection.size() > 2 * connections) {
                dropClosed();
            }
            kept = new ConnectionStatements();
            byConnection.put(connection, kept);
        }
        Kept found = kept.get(sql);
        if (found == null) {
            found = new Kept(prepared(connection, sql, way), way == Way.CALL || routines.in(sql));
            kept.keep(sql, found);
        }
        if (found.runsRoutine()) {
            lease.touched();
        }
        return found.statement();
    }

    private static PreparedStatement prepared(Connection connection, String sql, Way way) throws SQLException {
        return switch (way) {
            case QUERY -> connection.prepareStatement(sql);
            case CHANGE -> connection.prepareStatement(sql, Statement.RETURN_GENERATED_KEYS);
            case CALL -> connection.prepareCall(sql);
        };
    }

    /** Forgets what was prepared on a connection, after its server did. */
    void forget(Connection connection) {
        byConnection.remove(connection);
    }

    private void dropClosed() throws SQLException {
        for (Connection connection : byConnection.keySet()) {
            if (connection.isClosed()) {
                byConnection.remove(connection);
            }
        }
    }
}
