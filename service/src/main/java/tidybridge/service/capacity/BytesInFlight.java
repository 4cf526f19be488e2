package tidybridge.service.capacity;

import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;

/**
 * The bytes of bodies and answers that all requests together hold in memory. Whoever needs more than is left waits a moment, or is refused.
 * The first few of each request are free, so that small calls never wait. Thread-safe.
 */
public final class BytesInFlight {

    /** What every request holds without asking, in bytes. */
    public static final int FREE = 8 * 1024;

    /** How long a body waits for room. */
    public static final Duration PATIENCE = Duration.ofSeconds(1);

    /** One part of the heap in so many: a body is held a few times over while its values are read, bound and sent. */
    private static final int PARTS_OF_HEAP = 16;

    /** The largest body there may be fits in any case, in bytes. */
    private static final long LEAST = 8L * 1024 * 1024;

    private static final int UNIT = 1024;

    private final Semaphore units;
    private final int most;

    /**
     * Sets the bound.
     *
     * @param most bytes
     */
    public BytesInFlight(long most) {
        this.most = (int) Math.min(Integer.MAX_VALUE, Math.max(1, most / UNIT));
        this.units = new Semaphore(this.most, true);
    }

    /** As many as a heap of this process's size can bear. */
    public static BytesInFlight ofHeap() {
        return new BytesInFlight(Math.max(LEAST, Runtime.getRuntime().maxMemory() / PARTS_OF_HEAP));
    }

    /** The bound, in bytes. */
    public long most() {
        return (long) most * UNIT;
    }

    /** What is held now, in bytes. */
    public long held() {
        return (long) (most - units.availablePermits()) * UNIT;
    }

    /** What one request will hold; to be closed when it ends. */
    public Share share() {
        return new Share();
    }

    /** The bytes of one request. Used by one thread. */
    public final class Share implements AutoCloseable {
        private long asked;
        private int taken;

        private Share() {}

        /** Takes room for more bytes when it is there; false when it is not. */
        public boolean hold(long bytes) {
            return hold(bytes, Duration.ZERO);
        }

        /**
         * Takes room for more bytes.
         *
         * @param patience how long to wait for it
         * @return false when it did not become free
         */
        public boolean hold(long bytes, Duration patience) {
            long needed = Math.ceilDiv(Math.max(0, asked + bytes - FREE), UNIT) - taken;
            if (needed > most || needed > 0 && !acquire((int) needed, patience)) {
                return false;
            }
            asked += bytes;
            taken += (int) Math.max(0, needed);
            return true;
        }

        private boolean acquire(int needed, Duration patience) {
            try {
                return units.tryAcquire(needed, patience.toNanos(), TimeUnit.NANOSECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return false;
            }
        }

        @Override
        public void close() {
            if (taken > 0) {
                units.release(taken);
                taken = 0;
            }
            asked = 0;
        }
    }
}
