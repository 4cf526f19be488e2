package tidybridge.engine;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import com.zaxxer.hikari.HikariPoolMXBean;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;

/** The connections of one source, those who wait for one, and the words for what goes wrong. Thread-safe. */
final class ConnectionPool implements AutoCloseable {

    private static final long LEAST_WAIT_MILLIS = 250;

    private final SourceSettings settings;
    private final Failures failures;
    private final Sessions sessions;
    private final TimeLimits limits;
    private final PreparedStatements statements;
    private final Reconnecting connections;
    private final HikariDataSource pool;
    private final Semaphore turns;
    private final Pulse pulse;

    /** Opens the pool; the database need not be there yet. */
    ConnectionPool(SourceSettings settings, Database database, TimeLimits limits, PreparedStatements statements) {
        this.settings = settings;
        this.failures = database.failures();
        this.sessions = database.sessions();
        this.limits = limits;
        this.statements = statements;
        this.pulse = new Pulse(
                settings.name(),
                limit -> sessions.enter(settings, limit),
                this::cutAll,
                new Processors(Processors.LINUX)::wereBusy);
        this.connections =
                new Reconnecting(() -> sessions.open(settings, limits.usual(), TimeLimits.GRACE), pulse::isSilent);
        this.pool = new HikariDataSource(config(settings, connections));
        this.turns = new Semaphore(settings.connections());
    }

    private static HikariConfig config(SourceSettings settings, Reconnecting connections) {
        long patience = Patience.half(settings.patience()).toMillis();
        HikariConfig config = new HikariConfig();
        config.setPoolName("source-" + settings.name());
        config.setDataSource(connections);
        config.setMaximumPoolSize(settings.connections());
        config.setConnectionTimeout(Math.max(LEAST_WAIT_MILLIS, patience));
        config.setValidationTimeout(Math.max(LEAST_WAIT_MILLIS, patience));
        config.setInitializationFailTimeout(-1);
        config.setKeepaliveTime(Duration.ofMinutes(2).toMillis());
        return config;
    }

    /** Waits for a turn. Callers queue here and not at the pool, which keeps its waiting threads awake by yielding. */
    void takeTurn() throws SourceFailure {
        refuseWhileSilent();
        try {
            if (!turns.tryAcquire(settings.patience().toNanos(), TimeUnit.NANOSECONDS)) {
                throw unreachable("no connection became free" + numbers());
            }
        } catch (InterruptedException e) {
            throw interrupted();
        }
    }

    void giveTurnBack() {
        turns.release();
    }

    /** How many turns are taken now. */
    int busy() {
        return settings.connections() - turns.availablePermits();
    }

    /** A connection for somebody who has a turn. */
    Lease connect() throws SourceFailure {
        refuseWhileSilent();
        // waiting for a connection counts: the pool asks those it has kept for long whether they live
        Pulse.Work work = pulse.begin();
        try {
            return new Lease(this, waitForConnection(), work);
        } catch (SQLException e) {
            work.end();
            SQLException reason = connections.lastFailure();
            throw reason == null ? failure(e) : unreachable(failures.reason(reason) + numbers());
        }
    }

    /** To open one takes long where this machine's processors are busy, which is no fault of the database. */
    private Connection waitForConnection() throws SQLException {
        Patience patience = null;
        for (; ; ) {
            try {
                return pool.getConnection();
            } catch (SQLTransientConnectionException e) {
                if (patience == null) {
                    patience = new Patience(settings.patience());
                }
                SQLException reason = connections.lastFailure();
                boolean mayBeLate = reason == null || Pulse.isSilence(reason);
                if (pulse.isSilent() || !patience.goesOn(mayBeLate)) {
                    throw e;
                }
            }
        }
    }

    private void refuseWhileSilent() throws SourceFailure {
        if (pulse.isSilent()) {
            throw unreachable("it takes connections and gives no sign of life; calls are refused until it does");
        }
    }

    private void cutAll() {
        connections.opened().forEach(sessions::cut);
    }

    Sessions sessions() {
        return sessions;
    }

    /** Makes a session what it was when it was opened. The statements prepared in it are gone. */
    void renew(Connection physical) throws SQLException {
        statements.forget(physical);
        sessions.renew(physical, settings, limits.usual());
    }

    /** Gives a connection up for good. */
    void evict(Connection connection) {
        pool.evictConnection(connection);
    }

    SourceFailure failure(SQLException e) {
        return SourceFailure.of(e, failures, failures.condition(e), settings + ": " + failures.reason(e) + numbers());
    }

    SourceFailure interrupted() {
        Thread.currentThread().interrupt();
        return unreachable("interrupted while waiting");
    }

    private SourceFailure unreachable(String reason) {
        return new SourceFailure(Condition.of(ConditionKind.UNREACHABLE), settings + ": " + reason);
    }

    private String numbers() {
        return " [connections: " + busy() + " busy of " + settings.connections() + ", " + turns.getQueueLength()
                + " waiting, wait " + settings.patience().toMillis() + " ms]";
    }

    /** Has every connection opened anew: those that are busy, when they are given back. */
    void renewAll() {
        HikariPoolMXBean bean = pool.getHikariPoolMXBean();
        if (bean != null) {
            bean.softEvictConnections();
        }
    }

    @Override
    public void close() {
        pulse.close();
        pool.close();
    }
}
