package tidybridge.core.plan;

/**
 * One prepared form of an operation's statement.
 *
 * @param sql with a {@code ?} for each slot
 * @param slots what fills each question mark: an index into the bound values, {@link #LIMIT}, or {@link #continued(int)}
 */
public record Variant(String sql, int[] slots) {

    /** The slot of the number of rows to read. */
    public static final int LIMIT = -1;

    /** The slot of an order value of the row to continue after. */
    public static int continued(int key) {
        return -2 - key;
    }

    /** The order key of a {@link #continued} slot. */
    public static int key(int slot) {
        return -2 - slot;
    }
}
