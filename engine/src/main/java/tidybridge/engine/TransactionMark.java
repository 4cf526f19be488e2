package tidybridge.engine;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Set;

/**
 * Notices when a routine ends the transaction it was called in: a savepoint that was set before it is gone afterwards. Used by one thread.
 */
final class TransactionMark {

    private static final String NAME = "tidy_begun";

    /** A source with more procedures that commit is beyond remembering; those behind are noticed each time they come to their end. */
    private static final int MOST_ENDERS = 1_000;

    private final Connection connection;
    private final Failures failures;
    private final boolean guards;
    private final Set<String> enders;
    private boolean gone;

    /**
     * Watches a transaction.
     *
     * @param guards false where nothing is to be noticed: routines cannot commit in a rehearsal, and may where they manage transactions
     * @param enders statements whose routines were seen to end a transaction; what is seen now is added
     */
    TransactionMark(Connection connection, Failures failures, boolean guards, Set<String> enders) {
        this.connection = connection;
        this.failures = failures;
        this.guards = guards;
        this.enders = enders;
    }

    /** True once a routine has ended the transaction. */
    boolean isGone() {
        return gone;
    }

    /** Before a routine is called. */
    void set() throws SQLException {
        if (guards) {
            execute("savepoint " + NAME);
        }
    }

    /** After a routine has come to its end or failed, with its transaction still there as far as the failure tells. */
    void look(String sql) throws SQLException {
        if (!guards) {
            return;
        }
        try {
            execute("release savepoint " + NAME);
        } catch (SQLException e) {
            if (!failures.isSavepointGone(e)) {
                throw e;
            }
            gone = true;
            if (enders.size() < MOST_ENDERS) {
                enders.add(sql);
            }
        }
    }

    /** After a failure that ended the transaction by itself: what is known of the routine counts, because nothing is left to look at. */
    void lost(String sql) {
        gone = gone || guards && enders.contains(sql);
    }

    private void execute(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
