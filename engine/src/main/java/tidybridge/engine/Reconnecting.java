package tidybridge.engine;

import java.io.PrintWriter;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.time.Duration;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import java.util.WeakHashMap;
import java.util.function.BooleanSupplier;
import java.util.logging.Logger;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/**
 * Opens connections for a pool, and goes on trying while the database is away. A pool by itself waits longer after every failure, up to
 * seconds; a database that is back must be used again at once. Thread-safe.
 */
final class Reconnecting implements DataSource {

    private static final Duration PAUSE = Duration.ofMillis(200);

    private final Opening opening;
    private final BooleanSupplier silent;
    private final Set<Connection> opened = Collections.newSetFromMap(new WeakHashMap<>());
    private volatile @Nullable SQLException lastFailure;
    private volatile int loginTimeout;

    /** Opens one connection. */
    @FunctionalInterface
    interface Opening {
        Connection open() throws SQLException;
    }

    /**
     * Opens by these means.
     *
     * @param silent true while the database is known not to answer, so that it is not tried
     */
    Reconnecting(Opening opening, BooleanSupplier silent) {
        this.opening = opening;
        this.silent = silent;
    }

    /** Why no connection can be opened now; null when the last one could. */
    @Nullable
    SQLException lastFailure() {
        return lastFailure;
    }

    /** The connections that were opened and may still be open. */
    List<Connection> opened() {
        synchronized (opened) {
            return List.copyOf(opened);
        }
    }

    /** Waits as long as it takes; the pool interrupts it when it closes. Those who want a connection give up by themselves. */
    @Override
    public Connection getConnection() throws SQLException {
        for (; ; ) {
            while (silent.getAsBoolean()) {
                pause(new SQLException("the database gives no sign of life"));
            }
            try {
                Connection connection = opening.open();
                lastFailure = null;
                synchronized (opened) {
                    opened.add(connection);
                }
                return connection;
            } catch (SQLException e) {
                lastFailure = e;
                pause(e);
            }
        }
    }

    private static void pause(SQLException failure) throws SQLException {
        try {
            Thread.sleep(PAUSE);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw failure;
        }
    }

    @Override
    public Connection getConnection(String user, String password) throws SQLException {
        throw new SQLFeatureNotSupportedException("the user is part of the settings");
    }

    @Override
    public @Nullable PrintWriter getLogWriter() {
        return null;
    }

    @Override
    public void setLogWriter(@Nullable PrintWriter out) {}

    /** Told by the pool, which asks for it again when it closes. */
    @Override
    public void setLoginTimeout(int seconds) {
        loginTimeout = seconds;
    }

    @Override
    public int getLoginTimeout() {
        return loginTimeout;
    }

    @Override
    public Logger getParentLogger() throws SQLFeatureNotSupportedException {
        throw new SQLFeatureNotSupportedException("there is none");
    }

    @Override
    public <T> T unwrap(Class<T> type) throws SQLException {
        throw new SQLException("nothing is wrapped");
    }

    @Override
    public boolean isWrapperFor(Class<?> type) {
        return false;
    }
}
