package tidybridge.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.concurrent.Executor;
import tidybridge.core.definition.Isolation;

/** Runs queries of their own at one source. Thread-safe. */
final class QueryRun {

    static final Executor INLINE = Runnable::run;

    private final ConnectionPool pool;
    private final Failures failures;
    private final Sessions sessions;
    private final PreparedStatements statements;
    private final TimeLimits limits;

    QueryRun(ConnectionPool pool, Database database, PreparedStatements statements, TimeLimits limits) {
        this.pool = pool;
        this.failures = database.failures();
        this.sessions = database.sessions();
        this.statements = statements;
        this.limits = limits;
    }

    /** What is done on a connection. */
    private interface Work {
        void run(Lease lease) throws SQLException;
    }

    /** Runs the query; a connection that was dead before the first row is replaced once. */
    void run(Query query, Source.Reader reader) throws SourceFailure {
        run(lease -> run(lease, query, reader));
    }

    /** Runs queries one after the other, all of which read the state in which the first one found the database. */
    void runSeries(Query first, Source.SeriesReader reader) throws SourceFailure {
        run(lease -> runSeries(lease, first, reader));
    }

    private void run(Work work) throws SourceFailure {
        pool.takeTurn();
        try {
            if (!attempt(work, false)) {
                attempt(work, true);
            }
        } catch (JdbcRows.Broken e) {
            throw pool.failure(e.reason());
        } finally {
            pool.giveTurnBack();
        }
    }

    /** Runs the work; false when the connection was dead before the first row and another may be tried. */
    private boolean attempt(Work work, boolean last) throws SourceFailure {
        Lease lease = pool.connect();
        try (lease) {
            work.run(lease);
            return true;
        } catch (SQLException e) {
            if (!failures.leavesConnectionFit(e)) {
                lease.giveUp();
            }
            if (last || !failures.isBroken(e) || failures.isTimeout(e)) {
                throw pool.failure(e);
            }
            return false;
        } catch (RuntimeException e) {
            lease.giveUp();
            throw e;
        }
    }

    private void runSeries(Lease lease, Query first, Source.SeriesReader reader) throws SQLException {
        TransactionSettings oneState = new TransactionSettings(
                Isolation.REPEATABLE_READ, true, first.limit().time(), TransactionSettings.Ending.COMMIT);
        sessions.begin(lease.physical(), oneState, true, "");
        Query[] next = {first};
        try {
            run(lease, first, rows -> next[0] = reader.read(rows));
            while (next[0] != null) {
                goOn(lease, next[0], rows -> next[0] = reader.read(rows));
            }
        } finally {
            if (!lease.isClosed()) {
                sessions.undo(lease.physical(), oneState.ending(), "");
            }
        }
    }

    /** Runs a query whose failure begins nothing anew: rows were handed over before. */
    private void goOn(Lease lease, Query query, Source.Reader reader) {
        try {
            run(lease, query, reader);
        } catch (SQLException e) {
            throw new JdbcRows.Broken(e);
        }
    }

    private void run(Lease lease, Query query, Source.Reader reader) throws SQLException {
        Duration limit = limits.allowed(query.limit());
        if (!limits.isUsual(limit)) {
            lease.waitAtMost(TimeLimits.patienceMillis(limit));
        }
        PreparedStatement statement = statements.get(lease, query.variant().sql(), PreparedStatements.Way.QUERY);
        statement.setFetchSize(query.readAhead());
        Binding.bind(statement, query);
        try (ResultSet result = statement.executeQuery()) {
            read(lease.physical(), result, reader);
        } catch (SQLException | RuntimeException e) {
            lease.touched();
            throw e;
        }
        lease.look();
    }

    /** A reader that gives up, such as one whose caller hung up, ends the statement too: its rows are not read to the last. */
    private static void read(Connection physical, ResultSet result, Source.Reader reader) throws SQLException {
        try {
            reader.read(new JdbcRows(result));
        } catch (RuntimeException e) {
            physical.abort(INLINE);
            throw e;
        }
    }
}
