package tidybridge.cli;

import java.io.ByteArrayOutputStream;
import org.jspecify.annotations.Nullable;

/** Finds where rows end in a stream of them, and keeps the first and the last whole one. Used by one thread. */
final class RowScanner {

    private final boolean isTable;
    private final ByteArrayOutputStream row = new ByteArrayOutputStream();
    private byte @Nullable [] first;
    private byte @Nullable [] last;
    private boolean quoted;
    private long rows;
    private long bytes;
    private long whole;

    /**
     * Begins.
     *
     * @param isTable true for comma-separated values, whose cells may hold line breaks; false for lines of JSON
     */
    RowScanner(boolean isTable) {
        this.isTable = isTable;
    }

    /** Takes what comes next. */
    void take(byte[] source, int length) {
        int begun = 0;
        for (int i = 0; i < length; i++) {
            byte b = source[i];
            if (b == '"' && isTable) {
                quoted = !quoted;
            } else if (b == '\n' && !quoted) {
                row.write(source, begun, i + 1 - begun);
                begun = i + 1;
                end(bytes + i + 1);
            }
        }
        row.write(source, begun, length - begun);
        bytes += length;
    }

    private void end(long at) {
        last = row.toByteArray();
        if (first == null) {
            first = last;
        }
        row.reset();
        rows++;
        whole = at;
    }

    /** How many ended. */
    long rows() {
        return rows;
    }

    /** How many bytes there are up to the end of the last one. */
    long wholeBytes() {
        return whole;
    }

    /** The first row with its line break; null before it has ended. */
    byte @Nullable [] first() {
        return first;
    }

    /** The last row that ended, with its line break; null when none did. */
    byte @Nullable [] last() {
        return last;
    }
}
