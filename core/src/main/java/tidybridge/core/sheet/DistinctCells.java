package tidybridge.core.sheet;

import java.util.Arrays;
import java.util.Locale;

/**
 * Finds out whether the cells of a column all differ, by a number of 64 bits for each: eight bytes a row, and no more rows than are looked at. Two cells
 * that only seem the same cost a key, never a row. Used by one thread.
 */
final class DistinctCells {

    private static final int FIRST = 1_024;
    private static final int MOST = 1_000_000;

    private long[] seen = new long[FIRST];
    private int count;
    private boolean distinct = true;

    void see(String cell) {
        if (!distinct) {
            return;
        }
        if (count == seen.length && isFull()) {
            return;
        }
        // texts that differ by case alone are one key to most collations
        seen[count++] = hash(cell.toLowerCase(Locale.ROOT));
    }

    /** True when there is no room for another one, or no need of it. */
    private boolean isFull() {
        if (count == MOST || repeats()) {
            distinct = false;
            seen = new long[0];
            return true;
        }
        seen = Arrays.copyOf(seen, Math.min(MOST, 2 * count));
        return false;
    }

    private boolean repeats() {
        Arrays.sort(seen, 0, count);
        for (int i = 1; i < count; i++) {
            if (seen[i] == seen[i - 1]) {
                return true;
            }
        }
        return false;
    }

    /** Whether no cell was there twice; false, too, when there were too many to tell. */
    boolean all() {
        return distinct && !repeats();
    }

    /** FNV-1a. */
    private static long hash(String text) {
        long hash = 0xcbf29ce484222325L;
        for (int i = 0; i < text.length(); i++) {
            hash = (hash ^ text.charAt(i)) * 0x100000001b3L;
        }
        return hash;
    }
}
