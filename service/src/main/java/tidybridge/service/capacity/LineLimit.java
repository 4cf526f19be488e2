package tidybridge.service.capacity;

import java.time.Duration;

/** How many lines callers can have written to the log in some time: beyond that they are counted only. Thread-safe. */
public final class LineLimit {

    /** No line now. */
    public static final int NONE = -1;

    private final int most;
    private final long spanNanos;
    private long begunNanos;
    private int written;
    private int left;

    /**
     * Sets the limit.
     *
     * @param most lines
     */
    public LineLimit(int most, Duration span) {
        this.most = most;
        this.spanNanos = span.toNanos();
        this.begunNanos = Long.MIN_VALUE;
    }

    /**
     * Asks for a line.
     *
     * @param nowNanos by {@link System#nanoTime}
     * @return how many lines were left out before it, or {@link #NONE} for a line that is left out itself
     */
    public synchronized int ask(long nowNanos) {
        if (begunNanos == Long.MIN_VALUE || nowNanos - begunNanos >= spanNanos) {
            begunNanos = nowNanos;
            written = 0;
        }
        if (written == most) {
            left++;
            return NONE;
        }
        written++;
        int before = left;
        left = 0;
        return before;
    }
}
