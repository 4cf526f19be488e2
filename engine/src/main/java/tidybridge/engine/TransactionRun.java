package tidybridge.engine;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;
import tidybridge.engine.TransactionSettings.Ending;

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
    private final Set<String> enders = ConcurrentHashMap.newKeySet();

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
                    if (!e.isRepeatable() || wanted.ending() == Ending.ITS_OWN || tried == MOST_TRIES) {
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
            Duration limit = limits.allowed(wanted.timeout());
            Transaction transaction =
                    new Transaction(settings, database, pool, lease, statements, wanted, enders, limit);
            boolean ended = false;
            if (wanted.ending() == Ending.ROLL_BACK) {
                // who rehearses may ask for anything, a lock of the session among it
                lease.touched();
            }
            try {
                work.run(transaction);
                switch (wanted.ending()) {
                    case COMMIT -> commit(lease.physical());
                    case ITS_OWN -> checkClosed(lease);
                    case ROLL_BACK -> undo(lease, wanted.ending(), branch);
                }
                ended = true;
            } catch (Exception e) {
                if (isPartlyDone(transaction, wanted, e)) {
                    throw partlyDone(e);
                }
                throw e;
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

    /** What manages its own transaction must not leave one open: nobody would ever end it. */
    private void checkClosed(Lease lease) throws SourceFailure {
        if (database.sessions().isInTransaction(lease.physical())) {
            throw new SourceFailure(
                    Condition.of(ConditionKind.TRANSACTION_ENDED),
                    settings + ": the routine left its transaction open; that one was rolled back");
        }
    }

    /** Of what commits by itself, a failure that ends a transaction undoes the last one at most. */
    private static boolean isPartlyDone(Transaction transaction, TransactionSettings wanted, Exception e) {
        return transaction.isEnded()
                || wanted.ending() == Ending.ITS_OWN && e instanceof SourceFailure failure && failure.endsTransaction();
    }

    private SourceFailure partlyDone(Exception e) {
        String reason = e instanceof SourceFailure ? e.getMessage() : settings + ": the call was refused";
        return new SourceFailure(
                Condition.of(ConditionKind.TRANSACTION_ENDED),
                reason + " after a routine had ended the transaction, so that what it did is kept");
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
