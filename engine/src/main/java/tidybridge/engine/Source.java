package tidybridge.engine;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Executor;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Bound;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.plan.Variant;
import tidybridge.engine.SourceFailure.Kind;

/**
 * A MariaDB database with its pool of connections. Statements are prepared on the server and cached for each connection; sessions
 * are read-only unless the settings say otherwise, speak UTC, and stop any statement at its time limit. Thread-safe.
 */
public final class Source implements AutoCloseable {

    private static final Duration DEFAULT_LIMIT = OperationDefinition.DEFAULT_TIMEOUT;

    /** How much longer than the server's own limit the socket waits before the connection is given up. */
    private static final Duration GRACE = Duration.ofSeconds(2);

    private static final Executor INLINE = Runnable::run;

    private final SourceSettings settings;
    private final Duration usualLimit;
    private final HikariDataSource pool;
    private final Semaphore turns;
    private final PreparedStatements statements;
    private final MariaDbCatalog catalog;

    /** Opens the pool; the database need not be there yet. */
    public Source(SourceSettings settings) {
        this.settings = settings;
        this.usualLimit = shorter(DEFAULT_LIMIT, settings.timeout());
        this.pool = new HikariDataSource(config(settings));
        this.turns = new Semaphore(settings.connections());
        this.statements = new PreparedStatements(settings.connections());
        this.catalog = new MariaDbCatalog(this);
    }

    private static HikariConfig config(SourceSettings settings) {
        HikariConfig config = new HikariConfig();
        config.setPoolName("source-" + settings.name());
        config.setJdbcUrl("jdbc:mariadb://" + settings.host() + ":" + settings.port() + "/" + settings.schema());
        config.setUsername(settings.user());
        config.setPassword(settings.secret());
        config.setMaximumPoolSize(settings.connections());
        config.setConnectionTimeout(Math.max(250, settings.patience().toMillis()));
        config.setValidationTimeout(Math.max(250, settings.patience().toMillis() / 2));
        config.setInitializationFailTimeout(-1);
        config.setKeepaliveTime(Duration.ofMinutes(2).toMillis());
        connectionProperties(settings).forEach(config::addDataSourceProperty);
        config.addDataSourceProperty("useServerPrepStmts", "true");
        config.addDataSourceProperty("prepStmtCacheSize", "500");
        Duration limit = shorter(DEFAULT_LIMIT, settings.timeout());
        config.addDataSourceProperty(
                "socketTimeout", String.valueOf(limit.plus(GRACE).toMillis()));
        config.addDataSourceProperty(
                "sessionVariables",
                "tx_read_only=" + (settings.readOnly() ? 1 : 0) + ",max_statement_time=" + limit.toMillis() / 1000.0);
        return config;
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

    /** Callers queue here and not at the pool, which keeps its waiting threads awake by yielding. */
    private void takeTurn() throws SourceFailure {
        try {
            if (!turns.tryAcquire(settings.patience().toNanos(), TimeUnit.NANOSECONDS)) {
                throw new SourceFailure(Kind.UNAVAILABLE, settings + ": no connection became free" + numbers(), null);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new SourceFailure(Kind.UNAVAILABLE, settings + ": interrupted while waiting", null);
        }
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
            throw failure(e);
        }
    }

    private void run(Connection connection, Query query, Reader reader) throws SQLException {
        Duration limit = allowed(query.timeout());
        if (!limit.equals(usualLimit)) {
            connection.setNetworkTimeout(INLINE, (int) limit.plus(GRACE).toMillis());
        }
        Connection physical = connection.unwrap(org.mariadb.jdbc.Connection.class);
        PreparedStatement statement = statements.get(physical, query.variant().sql());
        statement.setFetchSize(query.readAhead());
        bind(statement, query);
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

    private static void bind(PreparedStatement statement, Query query) throws SQLException {
        int[] slots = query.variant().slots();
        Object[] position = query.position();
        for (int i = 0; i < slots.length; i++) {
            int slot = slots[i];
            if (slot >= 0) {
                bindValue(statement, i + 1, value(query.values(), slot));
            } else if (slot == Variant.LIMIT) {
                statement.setInt(i + 1, query.rows());
            } else if (position != null) {
                bindValue(statement, i + 1, position[Variant.key(slot)]);
            }
        }
    }

    private static @Nullable Object value(@Nullable Object[] values, int slot) {
        Object value = values[Variant.value(slot)];
        if (Variant.isItem(slot) && value instanceof List<?> list) {
            return list.get(Math.min(Variant.itemOf(slot), list.size() - 1));
        }
        return value;
    }

    private static void bindValue(PreparedStatement statement, int index, @Nullable Object value) throws SQLException {
        switch (value) {
            case String text -> statement.setString(index, text);
            case Long number -> statement.setLong(index, number);
            case byte[] bytes -> statement.setBytes(index, bytes);
            case List<?> list -> statement.setString(index, Bound.text(list));
            case Bound.Given given -> statement.setObject(index, null);
            case null, default -> statement.setObject(index, value);
        }
    }

    SourceFailure failure(SQLException e) {
        Kind kind = MariaDbFailures.kind(e);
        return new SourceFailure(kind, settings + ": " + MariaDbFailures.reason(e) + numbers(), e);
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
