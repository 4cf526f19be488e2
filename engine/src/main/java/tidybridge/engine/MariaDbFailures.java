package tidybridge.engine;

import java.net.SocketTimeoutException;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.Set;
import tidybridge.engine.SourceFailure.Kind;

/** Sorts MariaDB's errors by what a caller can do about them. */
final class MariaDbFailures {

    /** Too many connections, shutting down, lock wait, deadlock, connection killed. */
    private static final Set<Integer> COME_AGAIN = Set.of(1040, 1053, 1203, 1205, 1213, 1226, 1927);

    /** Query interrupted, max_statement_time exceeded. */
    private static final Set<Integer> STOPPED = Set.of(1317, 1969, 3024);

    /** The class of SQLSTATEs that the standard leaves to the code of the database itself (SQL, part 4: SIGNAL). */
    private static final String SIGNAL_CLASS = "45";

    private MariaDbFailures() {}

    static Kind kind(SQLException e) {
        // first, because the driver's own class of exception for it says that the connection is to blame
        if (e.getSQLState() != null && e.getSQLState().startsWith(SIGNAL_CLASS)) {
            return Kind.SIGNALLED;
        }
        if (isTimeout(e) || STOPPED.contains(e.getErrorCode())) {
            return Kind.TIMEOUT;
        }
        if (isBroken(e) || e instanceof SQLTransientConnectionException || COME_AGAIN.contains(e.getErrorCode())) {
            return Kind.UNAVAILABLE;
        }
        return Kind.FAILED;
    }

    /** True when only the statement failed, so that its connection serves the next one. */
    static boolean leavesConnectionFit(SQLException e) {
        return switch (kind(e)) {
            case FAILED, SIGNALLED -> true;
            case UNAVAILABLE, TIMEOUT -> false;
        };
    }

    /** True when the connection itself is gone, so that a fresh one may succeed. */
    static boolean isBroken(SQLException e) {
        String state = e.getSQLState();
        return state != null && state.startsWith("08") || e.getErrorCode() == 1927 || e.getErrorCode() == 1053;
    }

    static boolean isTimeout(SQLException e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof SocketTimeoutException) {
                return true;
            }
        }
        return false;
    }

    /** The server's sentence without the driver's connection number. */
    static String reason(SQLException e) {
        return String.valueOf(e.getMessage())
                .replaceFirst("^\\(conn[^)]*\\)\\s*", "")
                .strip();
    }
}
