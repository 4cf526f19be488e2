package tidybridge.engine;

import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;

/** How many of a source's connections one kind of use may hold at a time, so that the others always find one. Thread-safe. */
public final class ConnectionShare {

    private final Semaphore free;
    private final int most;
    private final Duration patience;

    ConnectionShare(int most, Duration patience) {
        this.most = most;
        this.free = new Semaphore(most, true);
        this.patience = patience;
    }

    /** How many may be held at a time. */
    public int most() {
        return most;
    }

    /** One of them for one piece of work, not taken yet; to be closed when the work ends. */
    public Turn turn() {
        return new Turn();
    }

    /** The right to hold one connection. Used by one thread. */
    public final class Turn implements AutoCloseable {
        private boolean taken;

        private Turn() {}

        /** Takes it if it is free now; true when it is taken. */
        public boolean now() {
            taken = taken || free.tryAcquire();
            return taken;
        }

        /** Waits for it as long as callers of the source wait for a connection; true when it is taken. */
        public boolean await() {
            try {
                taken = taken || free.tryAcquire(patience.toNanos(), TimeUnit.NANOSECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            return taken;
        }

        @Override
        public void close() {
            if (taken) {
                taken = false;
                free.release();
            }
        }
    }
}
