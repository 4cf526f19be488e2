package tidybridge.engine;

import java.sql.Connection;
import java.sql.SQLException;

/**
 * A connection lent to one piece of work. Whatever the work leaves in its session, the next borrower finds the session as it was opened.
 * Used by one thread.
 */
final class Lease implements AutoCloseable {

    private final ConnectionPool pool;
    private final Connection pooled;
    private final Connection physical;
    private final Pulse.Work work;
    private boolean touched;

    Lease(ConnectionPool pool, Connection pooled, Pulse.Work work) throws SQLException {
        this.pool = pool;
        this.work = work;
        this.pooled = pooled;
        this.physical = pooled.unwrap(Connection.class);
    }

    /** The driver's own connection, by which prepared statements are kept. */
    Connection physical() {
        return physical;
    }

    /** How long the connection waits for an answer of the server, for this lease only. */
    void waitAtMost(int millis) throws SQLException {
        pooled.setNetworkTimeout(QueryRun.INLINE, millis);
    }

    /** Remembers whether the statement that ended just now left something in the session: a trigger or a function may. */
    void look() {
        touched = touched || pool.sessions().isTouched(physical);
    }

    /** Says that the session cannot be trusted: a routine ran in it, or something failed. */
    void touched() {
        touched = true;
    }

    /** Gives the connection up for good. */
    void giveUp() {
        pool.evict(pooled);
    }

    boolean isClosed() throws SQLException {
        return physical.isClosed();
    }

    /** Gives the connection back, as new where that is needed. */
    @Override
    public void close() throws SQLException {
        try {
            if (touched && !physical.isClosed()) {
                pool.renew(physical);
            }
        } catch (SQLException e) {
            giveUp();
        } finally {
            work.end();
        }
        if (physical.isClosed()) {
            // the pool is told before it looks for itself, and makes much of it
            giveUp();
        }
        pooled.close();
    }
}
