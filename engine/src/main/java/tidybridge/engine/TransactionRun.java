package tidybridge.engine;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.UUID;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;

/** Runs work in transactions at one source. Thread-safe. */
final class TransactionRun {

    /** How often a transaction is tried that others were in the way of. */
    private static final int MOST_TRIES = 4;

    private static final long PAUSE_MILLIS = 10;

    private final SourceSettings settings;
    private final Database database;
    private final ConnectionPool pool;
    private final PreparedStatements statements;
    private final TimeLimits limits;

    TransactionRun(
            SourceSettings settings,
            Database database,
            ConnectionPool pool,
            PreparedStatements statements,
            TimeLimits limits) {
        this.settings = settings;
        this.database = database;
        this.pool = pool;
        this.statements = statements;
        this.limits = limits;
    }

    <E extends Exception> void run(TransactionSettings wanted, Source.Work<E> work) throws SourceFailure, E {
        pool.takeTurn();
        try {
            for (int tried = 1; ; tried++) {
                try {
                    once(wanted, work);
                    return;
                } catch (SourceFailure e) {
                    if (!e.isRepeatable() || tried == MOST_TRIES) {
                        throw e;
                    }
                    pause(tried);
                }
            }
        } finally {
            pool.giveTurnBack();
        }
    }

    /** Whoever lost against another waits a little, so that the other can finish. */
    private void pause(int tried) throws SourceFailure {
        try {
            Thread.sleep(PAUSE_MILLIS << 2 * (tried - 1));
        } catch (InterruptedException e) {
            throw pool.interrupted();
        }
    }

    private <E extends Exception> void once(TransactionSettings wanted, Source.Work<E> work) throws SourceFailure, E {
        String branch = UUID.randomUUID().toString();
        try (Lease lease = begin(wanted, branch)) {
            boolean ended = false;
            try {
                work.run(
                        new Transaction(settings, database, pool, lease, statements, limits.allowed(wanted.timeout())));
                switch (wanted.ending()) {
                    case COMMIT -> commit(lease.physical());
                    case ROLL_BACK -> undo(lease, wanted.ending(), branch);
                }
                ended = true;
            } finally {
                if (!ended) {
                    lease.touched();
                    undo(lease, wanted.ending(), branch);
                }
            }
        } catch (SQLException e) {
            throw pool.failure(e);
        }
    }

    /** A connection in a new transaction; a dead one is replaced once, because nothing was done on it yet. */
    private Lease begin(TransactionSettings wanted, String branch) throws SourceFailure {
        Duration limit = limits.allowed(wanted.timeout());
        for (boolean last = false; ; last = true) {
            Lease lease = pool.connect();
            try {
                lease.waitAtMost(TimeLimits.patienceMillis(limit));
                database.sessions().begin(lease.physical(), wanted, readsOnly(wanted), branch);
                return lease;
            } catch (SQLException e) {
                lease.giveUp();
                if (last || !database.failures().isBroken(e)) {
                    throw pool.failure(e);
                }
            }
        }
    }

    /** A transaction that says what it does is heard before the session; a read-only source stays one all the same. */
    private boolean readsOnly(TransactionSettings wanted) {
        return settings.readOnly() || wanted.readOnly();
    }

    private void commit(Connection connection) throws SQLException, SourceFailure {
        try {
            database.sessions().commit(connection);
        } catch (SQLException e) {
            if (database.failures().leavesConnectionFit(e)) {
                throw e;
            }
            throw SourceFailure.of(
                    e,
                    database.failures(),
                    Condition.of(ConditionKind.OUTCOME_UNKNOWN),
                    settings + ": the connection broke at COMMIT: "
                            + database.failures().reason(e));
        }
    }

    /** A connection that cannot be rolled back is given up: the server rolls back what it had begun. */
    private void undo(Lease lease, TransactionSettings.Ending ending, String branch) {
        try {
            if (!lease.isClosed()) {
                database.sessions().undo(lease.physical(), ending, branch);
            }
        } catch (SQLException e) {
            lease.giveUp();
        }
    }
}
