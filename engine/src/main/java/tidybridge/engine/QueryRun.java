package tidybridge.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.concurrent.Executor;

/** Runs queries of their own at one source. Thread-safe. */
final class QueryRun {

    static final Executor INLINE = Runnable::run;

    private final ConnectionPool pool;
    private final Failures failures;
    private final PreparedStatements statements;
    private final TimeLimits limits;

    QueryRun(ConnectionPool pool, Failures failures, PreparedStatements statements, TimeLimits limits) {
        this.pool = pool;
        this.failures = failures;
        this.statements = statements;
        this.limits = limits;
    }

    /** Runs the query; a connection that was dead before the first row is replaced once. */
    void run(Query query, Source.Reader reader) throws SourceFailure {
        pool.takeTurn();
        try {
            if (!attempt(query, reader, false)) {
                attempt(query, reader, true);
            }
        } catch (JdbcRows.Broken e) {
            throw pool.failure(e.reason());
        } finally {
            pool.giveTurnBack();
        }
    }

    /** Runs the query; false when the connection was dead before the first row and another may be tried. */
    private boolean attempt(Query query, Source.Reader reader, boolean last) throws SourceFailure {
        Lease lease = pool.connect();
        try (lease) {
            run(lease, query, reader);
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
