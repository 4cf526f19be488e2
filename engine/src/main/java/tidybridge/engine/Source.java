package tidybridge.engine;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.Properties;
import java.util.UUID;
import java.util.concurrent.Executor;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;
import tidybridge.core.definition.Isolation;
import tidybridge.core.definition.OperationDefinition;

/**
 * A MariaDB database with its pool of connections. Statements are prepared on the server and cached for each connection; sessions
 * are read-only unless the settings say otherwise, speak UTC, and stop any statement at its time limit. Thread-safe.
 */
public final class Source implements AutoCloseable {

    private static final Duration DEFAULT_LIMIT = OperationDefinition.DEFAULT_TIMEOUT;

    /** How much longer than the server's own limit the socket waits before the connection is given up. */
    private static final Duration GRACE = Duration.ofSeconds(2);

    /** How often a transaction is tried that others were in the way of. */
    private static final int MOST_TRIES = 4;

    private static final long PAUSE_MILLIS = 10;

    private static final Executor INLINE = Runnable::run;

    private final SourceSettings settings;
    private final Duration usualLimit;
    private final Reconnecting connections;
    private final HikariDataSource pool;
    private final Semaphore turns;
    private final PreparedStatements statements;
    private final MariaDbCatalog catalog;

    /** Opens the pool; the database need not be there yet. */
    public Source(SourceSettings settings) {
        this.settings = settings;
        this.usualLimit = shorter(DEFAULT_LIMIT, settings.timeout());
        this.connections = new Reconnecting(url(settings), properties(settings));
        this.pool = new HikariDataSource(config(settings, connections));
        this.turns = new Semaphore(settings.connections());
        this.statements = new PreparedStatements(settings.connections());
        this.catalog = new MariaDbCatalog(this);
    }

    private static HikariConfig config(SourceSettings settings, Reconnecting connections) {
        HikariConfig config = new HikariConfig();
        config.setPoolName("source-" + settings.name());
        config.setDataSource(connections);
        config.setMaximumPoolSize(settings.connections());
        config.setConnectionTimeout(Math.max(250, settings.patience().toMillis()));
        config.setValidationTimeout(Math.max(250, settings.patience().toMillis() / 2));
        config.setInitializationFailTimeout(-1);
        config.setKeepaliveTime(Duration.ofMinutes(2).toMillis());
        return config;
    }

    private static String url(SourceSettings settings) {
        return "jdbc:mariadb://" + settings.host() + ":" + settings.port() + "/" + settings.schema();
    }

    private static Properties properties(SourceSettings settings) {
        Properties properties = new Properties();
        properties.putAll(connectionProperties(settings));
        properties.put("user", settings.user());
        properties.put("password", settings.secret());
        properties.put("useServerPrepStmts", "true");
        properties.put("prepStmtCacheSize", "500");
        Duration limit = shorter(DEFAULT_LIMIT, settings.timeout());
        properties.put("socketTimeout", String.valueOf(limit.plus(GRACE).toMillis()));
        properties.put(
                "sessionVariables",
                "tx_read_only=" + (settings.readOnly() ? 1 : 0) + ",max_statement_time=" + limit.toMillis() / 1000.0
                        + ",innodb_lock_wait_timeout=" + lockWaitSeconds(limit));
        return properties;
    }

    /** Shorter than a statement's limit, so that a caller is told that others hold the rows, and not that the statement is slow. */
    private static long lockWaitSeconds(Duration limit) {
        return Math.max(1, limit.toSeconds() / 2);
    }

    /** What every connection of a source has in common, that of a probe too. */
    static Map<String, String> connectionProperties(SourceSettings settings) {
        Map<String, String> properties = new HashMap<>();
        properties.put("connectionTimeZone", "UTC");
        properties.put("forceConnectionTimeZoneToSession", "true");
        properties.put("connectTimeout", String.valueOf(settings.patience().toMillis()));
        properties.put(
                "sslMode",
                switch (settings.transport()) {
                    case VERIFIED -> "verify-full";
                    case ENCRYPTED -> "trust";
                    case PLAIN -> "disable";
                });
        if (settings.certificate() != null) {
            properties.put("serverSslCert", settings.certificate().toString());
        }
        return properties;
    }

    private static Duration shorter(Duration one, Duration other) {
        return one.compareTo(other) < 0 ? one : other;
    }

    /** How long a statement may run here of the time its operation allows. */
    private Duration allowed(Duration asked) {
        return shorter(asked, settings.timeout());
    }

    /** A statement in the form in which the server stops it in time; the session's own limit needs no words. */
    String bounded(String sql, Duration timeout) {
        Duration limit = allowed(timeout);
        return limit.equals(usualLimit)
                ? sql
                : "set statement max_statement_time=" + limit.toMillis() / 1000.0 + " for " + sql;
    }

    public SourceSettings settings() {
        return settings;
    }

    /** Does something with the rows of a result, which end when it returns. */
    @FunctionalInterface
    public interface Reader {
        void read(Rows rows);
    }

    /**
     * Runs a query and hands its rows to a reader. A connection that turns out to be dead before the first row is replaced
     * once, so that a restarted database costs no failed call.
     *
     * @throws SourceFailure when it cannot be run to its end
     */
    public void read(Query query, Reader reader) throws SourceFailure {
        takeTurn();
        try {
            if (!attempt(query, reader, false)) {
                attempt(query, reader, true);
            }
        } catch (JdbcRows.Broken e) {
            throw failure(e.reason());
        } finally {
            turns.release();
        }
    }

    /**
     * Something done in a transaction. It may be done again from its start when others were in its way.
     *
     * @param <E> what it gives up with, after which everything is rolled back
     */
    @FunctionalInterface
    public interface Work<E extends Exception> {
        void run(Transaction transaction) throws SourceFailure, E;
    }

    /**
     * Runs some work in a transaction: all of its changes are kept or none. A deadlock and its like are tried again a few times.
     *
     * @throws SourceFailure when it cannot be run to its end; nothing is changed, unless its kind is
     *     {@link ConditionKind#OUTCOME_UNKNOWN}
     */
    public <E extends Exception> void transact(TransactionSettings wanted, Work<E> work) throws SourceFailure, E {
        takeTurn();
        try {
            for (int tried = 1; ; tried++) {
                try {
                    begun(wanted, work);
                    return;
                } catch (SourceFailure e) {
                    if (!e.isRepeatable() || tried == MOST_TRIES) {
                        throw e;
                    }
                    pause(tried);
                }
            }
        } finally {
            turns.release();
        }
    }

    /** Whoever lost against another waits a little, so that the other can finish. */
    private void pause(int tried) throws SourceFailure {
        try {
            Thread.sleep(PAUSE_MILLIS << 2 * (tried - 1));
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw unreachable("interrupted while waiting");
        }
    }

    private <E extends Exception> void begun(TransactionSettings wanted, Work<E> work) throws SourceFailure, E {
        String branch = "'" + UUID.randomUUID() + "'";
        try (Connection connection = begin(wanted, branch)) {
            boolean ended = false;
            try {
                Connection physical = connection.unwrap(org.mariadb.jdbc.Connection.class);
                work.run(new Transaction(this, physical, statements, allowed(wanted.timeout())));
                switch (wanted.ending()) {
                    case COMMIT -> commit(connection);
                    case ROLL_BACK -> undo(connection, wanted.ending(), branch);
                }
                ended = true;
            } finally {
                if (!ended) {
                    undo(connection, wanted.ending(), branch);
                }
            }
        } catch (SQLException e) {
            throw failure(e);
        }
    }

    /**
     * A connection in a new transaction; a dead one is replaced once, because nothing was done on it yet.
     *
     * @param branch what a rehearsal is called: it runs in a branch of a distributed transaction, in which no statement and no procedure
     *     can commit
     */
    private Connection begin(TransactionSettings wanted, String branch) throws SourceFailure {
        for (boolean last = false; ; last = true) {
            Connection connection = connect();
            try {
                Isolation isolation = wanted.isolation();
                if (isolation != null) {
                    simple(connection, "set transaction isolation level " + isolation.sql() + access(wanted));
                }
                connection.setNetworkTimeout(
                        INLINE, (int) allowed(wanted.timeout()).plus(GRACE).toMillis());
                simple(
                        connection,
                        switch (wanted.ending()) {
                            case COMMIT ->
                                readsOnly(wanted) ? "start transaction read only" : "start transaction read write";
                            case ROLL_BACK -> "xa start " + branch;
                        });
                return connection;
            } catch (SQLException e) {
                pool.evictConnection(connection);
                if (last || !MariaDbFailures.isBroken(e)) {
                    throw failure(e);
                }
            }
        }
    }

    /** A branch cannot say when it starts that it only reads, so it is said before. */
    private String access(TransactionSettings wanted) {
        return switch (wanted.ending()) {
            case COMMIT -> "";
            case ROLL_BACK -> readsOnly(wanted) ? ", read only" : ", read write";
        };
    }

    /** A transaction that says what it does is heard before the session; a read-only source stays one all the same. */
    private boolean readsOnly(TransactionSettings wanted) {
        return settings.readOnly() || wanted.readOnly();
    }

    private void commit(Connection connection) throws SQLException, SourceFailure {
        try {
            simple(connection, "commit");
        } catch (SQLException e) {
            if (MariaDbFailures.leavesConnectionFit(e)) {
                throw e;
            }
            throw new SourceFailure(
                    Condition.of(ConditionKind.OUTCOME_UNKNOWN),
                    settings + ": the connection broke at COMMIT: " + MariaDbFailures.reason(e),
                    e);
        }
    }

    private static void simple(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    /** A connection that cannot be rolled back is given up: the server rolls back what it had begun. */
    private void undo(Connection connection, TransactionSettings.Ending ending, String branch) {
        try {
            if (connection.isClosed()) {
                return;
            }
            switch (ending) {
                case COMMIT -> simple(connection, "rollback");
                case ROLL_BACK -> {
                    simple(connection, "xa end " + branch);
                    simple(connection, "xa rollback " + branch);
                }
            }
        } catch (SQLException e) {
            pool.evictConnection(connection);
        }
    }

    /** Callers queue here and not at the pool, which keeps its waiting threads awake by yielding. */
    private void takeTurn() throws SourceFailure {
        try {
            if (!turns.tryAcquire(settings.patience().toNanos(), TimeUnit.NANOSECONDS)) {
                throw unreachable("no connection became free" + numbers());
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw unreachable("interrupted while waiting");
        }
    }

    private SourceFailure unreachable(String reason) {
        return new SourceFailure(Condition.of(ConditionKind.UNREACHABLE), settings + ": " + reason, null);
    }

    /** Runs the query; false when the connection was dead before the first row and another may be tried. */
    private boolean attempt(Query query, Reader reader, boolean last) throws SourceFailure {
        Connection connection = connect();
        try (connection) {
            run(connection, query, reader);
            return true;
        } catch (SQLException e) {
            if (!MariaDbFailures.leavesConnectionFit(e)) {
                pool.evictConnection(connection);
            }
            if (last || !MariaDbFailures.isBroken(e) || MariaDbFailures.isTimeout(e)) {
                throw failure(e);
            }
            return false;
        } catch (RuntimeException e) {
            pool.evictConnection(connection);
            throw e;
        }
    }

    private Connection connect() throws SourceFailure {
        try {
            return pool.getConnection();
        } catch (SQLException e) {
            SQLException reason = connections.lastFailure();
            throw reason == null ? failure(e) : unreachable(MariaDbFailures.reason(reason) + numbers());
        }
    }

    private void run(Connection connection, Query query, Reader reader) throws SQLException {
        Duration limit = allowed(query.timeout());
        if (!limit.equals(usualLimit)) {
            connection.setNetworkTimeout(INLINE, (int) limit.plus(GRACE).toMillis());
        }
        Connection physical = connection.unwrap(org.mariadb.jdbc.Connection.class);
        PreparedStatement statement = statements.get(physical, query.variant().sql(), PreparedStatements.Way.QUERY);
        statement.setFetchSize(query.readAhead());
        Binding.bind(statement, query);
        try (ResultSet result = statement.executeQuery()) {
            read(physical, result, reader);
        }
    }

    /** A reader that gives up, such as one whose caller hung up, ends the statement too: its rows are not read to the last. */
    private static void read(Connection physical, ResultSet result, Reader reader) throws SQLException {
        try {
            reader.read(new JdbcRows(result));
        } catch (RuntimeException e) {
            physical.abort(INLINE);
            throw e;
        }
    }

    SourceFailure failure(SQLException e) {
        return new SourceFailure(
                MariaDbFailures.condition(e), settings + ": " + MariaDbFailures.reason(e) + numbers(), e);
    }

    private String numbers() {
        return " [connections: " + (settings.connections() - turns.availablePermits()) + " busy of "
                + settings.connections() + ", " + turns.getQueueLength() + " waiting, wait "
                + settings.patience().toMillis() + " ms]";
    }

    /**
     * This database as a catalog.
     *
     * @return describes by preparing; its methods throw {@link Unreachable} when the database does not answer
     */
    public Catalog catalog() {
        return catalog;
    }

    /** What the database holds, read again. */
    public Contents refresh() {
        return catalog.refresh();
    }

    /** Runs something on a connection of the pool, for questions that are no operation of anybody's. */
    <T> T ask(Question<T> question) throws SourceFailure {
        takeTurn();
        try (Connection connection = connect()) {
            return question.ask(connection);
        } catch (SQLException e) {
            throw failure(e);
        } finally {
            turns.release();
        }
    }

    /** The same for somebody who holds a connection already, and so must not queue for his turn. */
    <T> T askAside(Question<T> question) throws SourceFailure {
        try (Connection connection = connect()) {
            return question.ask(connection);
        } catch (SQLException e) {
            throw failure(e);
        }
    }

    /** Something to be asked on a connection. */
    @FunctionalInterface
    interface Question<T> {
        T ask(Connection connection) throws SQLException;
    }

    /** How many connections are busy now. */
    public int busy() {
        return settings.connections() - turns.availablePermits();
    }

    /** The first rows of a table or view, long values cut; for people who look around. */
    public SampleRows sample(Relation relation, int rows) throws SourceFailure {
        return ask(connection -> SampleRows.read(connection, relation, rows));
    }

    /** The database could not be asked about a statement. */
    public static final class Unreachable extends RuntimeException {
        Unreachable(SourceFailure cause) {
            super(cause.getMessage(), cause);
        }
    }

    /** Closes every connection. */
    @Override
    public void close() {
        pool.close();
    }
}
