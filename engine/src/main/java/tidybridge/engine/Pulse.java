package tidybridge.engine;

import java.net.SocketTimeoutException;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import org.jspecify.annotations.Nullable;

/**
 * Notices that a database does not answer any more although its connections stand, as when its machine hangs. As long as some work takes
 * long, the database is asked for a sign of life; when it gives none twice, the connections are cut and callers are refused at once, until it
 * answers again. A statement that is merely slow is left alone. Thread-safe.
 */
final class Pulse implements AutoCloseable {

    /** Work that takes no longer is not worth a question. */
    private static final Duration LONG_WORK = Duration.ofMillis(200);

    private static final Duration BETWEEN_LOOKS = Duration.ofMillis(100);

    /** How long a sign of life may take: twice as long is how long a database is given, so that a call is refused within a second. */
    private static final Duration SIGN = Duration.ofMillis(300);

    /** How long the last sign may take where the processors of this machine are busy, so that it may be this side that hears late. */
    private static final Duration LATE_SIGN = Duration.ofSeconds(3);

    private static final Duration LONG_SIGN = Duration.ofSeconds(20);

    /** Opens a connection that gives up after a time. */
    @FunctionalInterface
    interface Opening {
        Connection open(Duration limit) throws SQLException;
    }

    private final Opening opening;
    private final Runnable cutAll;
    private final BooleanSupplier wasBusy;
    private final Set<Work> busy = ConcurrentHashMap.newKeySet();
    private final Thread looking;
    private volatile boolean silent;
    private volatile boolean closed;
    private volatile @Nullable Connection own;

    /**
     * Begins to look.
     *
     * @param cutAll ends every connection there is, whoever waits on it
     * @param wasBusy tells whether this machine had no time of its processors to spare since it was asked last
     */
    Pulse(String name, Opening opening, Runnable cutAll, BooleanSupplier wasBusy) {
        this.opening = opening;
        this.cutAll = cutAll;
        this.wasBusy = wasBusy;
        this.looking = Thread.ofVirtual().name("pulse-" + name).start(this::look);
    }

    /** Some work that has begun and must end. */
    final class Work {
        private final long sinceNanos = System.nanoTime();

        void end() {
            busy.remove(this);
        }
    }

    Work begin() {
        Work work = new Work();
        busy.add(work);
        return work;
    }

    /** True while the database gives no sign of life. */
    boolean isSilent() {
        return silent;
    }

    private void look() {
        while (!closed) {
            try {
                TimeUnit.NANOSECONDS.sleep(BETWEEN_LOOKS.toNanos());
            } catch (InterruptedException e) {
                return;
            }
            if (isWorkLong()) {
                if (isWithoutSign()) {
                    beSilent();
                }
            } else if (busy.isEmpty()) {
                forgetOwn();
            }
        }
    }

    private boolean isWithoutSign() {
        wasBusy.getAsBoolean();
        Connection connection = own;
        boolean first = connection == null ? answers(SIGN) : hasOwnSign(connection);
        if (first || answers(SIGN)) {
            return false;
        }
        // what is merely slow here is no fault of the database
        return !wasBusy.getAsBoolean() || !answers(LATE_SIGN);
    }

    /**
     * Refuses callers until the database answers. It is asked by one connection that waits, and not by many that give up: a server may shut
     * out a host of many broken connections.
     */
    private void beSilent() {
        silent = true;
        try {
            while (!closed) {
                cutAll.run();
                if (answers(LONG_SIGN)) {
                    return;
                }
            }
        } finally {
            silent = false;
        }
    }

    private boolean isWorkLong() {
        long now = System.nanoTime();
        for (Work work : busy) {
            if (now - work.sinceNanos > LONG_WORK.toNanos()) {
                return true;
            }
        }
        return false;
    }

    /** Asks on the connection that is there from the last time. */
    private boolean hasOwnSign(Connection connection) {
        // the driver's own question has a time limit of whole seconds
        try (Statement statement = connection.createStatement()) {
            statement.execute("select 1");
            return true;
        } catch (SQLException e) {
            forgetOwn();
            return false;
        }
    }

    /**
     * Enters the database, on a connection that takes no turn from anybody.
     *
     * @return true also when it refuses, or is not there: calls find that out by themselves and at once
     */
    private boolean answers(Duration limit) {
        try {
            Connection opened = opening.open(limit);
            opened.setNetworkTimeout(QueryRun.INLINE, (int) SIGN.toMillis());
            own = opened;
            return true;
        } catch (SQLException e) {
            return !isSilence(e);
        }
    }

    /** True where the other side was not heard in time, and did not refuse. */
    static boolean isSilence(SQLException e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof SocketTimeoutException) {
                return true;
            }
        }
        return false;
    }

    private void forgetOwn() {
        Connection connection = own;
        own = null;
        if (connection != null) {
            try {
                connection.close();
            } catch (SQLException e) {
                // it is broken, and gone all the same
            }
        }
    }

    @Override
    public void close() {
        closed = true;
        looking.interrupt();
        forgetOwn();
    }
}
