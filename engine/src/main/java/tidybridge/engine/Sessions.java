package tidybridge.engine;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;

/** How the sessions of one kind of database are opened, limited and ended. */
public interface Sessions {

    /**
     * Opens a session for a pool: it speaks UTC, refuses changes where the settings say so, and stops any statement after a time.
     *
     * @param limit for statements that say nothing else
     * @param grace how much longer the connection waits before it gives the server up
     */
    Connection open(SourceSettings settings, Duration limit, Duration grace) throws SQLException;

    /**
     * True when the statement that ended just now left something behind in its session, as the server itself tells: a variable, a setting,
     * a schema, a temporary table. A server need not tell of named locks.
     */
    boolean isTouched(Connection connection);

    /** True when a transaction was open behind the statement that ended just now without an error. */
    boolean isInTransaction(Connection connection);

    /** Makes a session of {@link #open} what it was then. What was prepared in it is gone. */
    void renew(Connection connection, SourceSettings settings, Duration limit) throws SQLException;

    /** Enters the server without choosing a schema, to find out what can be reached; the session changes nothing. */
    Connection enter(SourceSettings settings, Duration limit) throws SQLException;

    /** Chooses the schema of the settings in a session that was entered. */
    void chooseSchema(Connection connection, String schema) throws SQLException;

    /** How a session is encrypted, in the server's own words. */
    String encryption(Connection connection) throws SQLException;

    /** A statement in the form in which the server stops it after a time. */
    String bounded(String sql, Duration limit);

    /**
     * Begins a transaction.
     *
     * @param readsOnly true when the database itself must refuse every change
     * @param branch what a rehearsal is called, unique among all that run
     */
    void begin(Connection connection, TransactionSettings wanted, boolean readsOnly, String branch) throws SQLException;

    /** Ends a connection at once, without a word to a server that may not answer; whoever waits on it fails. */
    void cut(Connection connection);

    void commit(Connection connection) throws SQLException;

    /** Undoes everything since {@link #begin}. */
    void undo(Connection connection, TransactionSettings.Ending ending, String branch) throws SQLException;
}
