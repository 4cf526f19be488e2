package tidybridge.cli;

import java.io.PrintWriter;
import java.util.Locale;

/** Shows on a terminal how far an export is: a bar where the number of rows is known, rows and bytes in a second. Used by one thread. */
final class ExportProgress {

    private static final long BETWEEN_NANOS = 200_000_000;
    private static final double SECOND_NANOS = 1e9;
    private static final double MEGABYTE = 1e6;
    private static final int WIDTH = 30;

    private final PrintWriter err;
    private final boolean isTerminal;
    private final long expected;
    private final long begunNanos = System.nanoTime();
    private long shownNanos;
    private long rows;
    private long bytes;
    private long before;
    private int shown;

    /**
     * Begins.
     *
     * @param isTerminal false where nobody watches, so that only the end is told
     * @param expected about how many rows will come; 0 when nobody knows
     */
    ExportProgress(PrintWriter err, boolean isTerminal, long expected) {
        this.err = err;
        this.isTerminal = isTerminal;
        this.expected = expected;
    }

    /**
     * Tells what has come.
     *
     * @param rowsSoFar -1 where nobody counts
     */
    void moved(long rowsSoFar, int moreBytes) {
        rows = rowsSoFar;
        bytes += moreBytes;
        long now = System.nanoTime();
        if (isTerminal && now - shownNanos > BETWEEN_NANOS) {
            shownNanos = now;
            show("\r" + line(now));
            err.flush();
        }
    }

    /** Writes over the line before. */
    private void show(String line) {
        err.print(line + " ".repeat(Math.max(0, shown - line.length())));
        shown = line.length();
    }

    /** Says how many rows an earlier run had fetched. */
    void goOn(long rowsBefore) {
        before = rowsBefore;
    }

    private long rate(double seconds) {
        return Math.round((rows - before) / Math.max(seconds, 1e-3));
    }

    private String line(long now) {
        double seconds = (now - begunNanos) / SECOND_NANOS;
        String counted = rows < 0 ? "" : String.format(Locale.ROOT, "%,d rows, %,d rows/s, ", rows, rate(seconds));
        return (expected == 0 || rows < 0 ? "" : bar() + " ")
                + counted
                + String.format(Locale.ROOT, "%.1f MB", bytes / MEGABYTE);
    }

    private String bar() {
        int filled = (int) Math.min(WIDTH, WIDTH * rows / Math.max(1, expected));
        return "[" + "=".repeat(filled) + " ".repeat(WIDTH - filled) + "]";
    }

    /** Tells the end. */
    void end(String what) {
        double seconds = (System.nanoTime() - begunNanos) / SECOND_NANOS;
        err.print(isTerminal && shownNanos > 0 ? "\r" : "");
        String counted = rows < 0 ? "" : String.format(Locale.ROOT, "%,d rows, %,d rows/s, ", rows, rate(seconds));
        show(counted + String.format(Locale.ROOT, "%.1f MB in %.1f s%s", bytes / MEGABYTE, seconds, what));
        err.println();
        err.flush();
    }
}
