package tidybridge.core.plan;

/**
 * One prepared form of an operation's statement.
 *
 * @param sql with a {@code ?} for each slot
 * @param slots what fills each question mark: an index into the bound values, an item of a list there, {@link #LIMIT}, or
 *     {@link #continued(int)}
 */
public record Variant(String sql, int[] slots) {

    /** The slot of the number of rows to read. */
    public static final int LIMIT = -1;

    private static final int ITEM_SHIFT = 16;
    private static final int VALUE_MASK = (1 << ITEM_SHIFT) - 1;

    /** The slot of an order value of the row to continue after. */
    public static int continued(int key) {
        return -2 - key;
    }

    /** The order key of a {@link #continued} slot. */
    public static int key(int slot) {
        return -2 - slot;
    }

    /** The slot of an item of the list at an index of the bound values; where the list is shorter, its last item. */
    public static int item(int value, int item) {
        return value | item + 1 << ITEM_SHIFT;
    }

    /** True for the slot of an item. */
    public static boolean isItem(int slot) {
        return slot > VALUE_MASK;
    }

    /** The index into the bound values of a slot that is not negative. */
    public static int value(int slot) {
        return slot & VALUE_MASK;
    }

    /** Which item of its list a slot takes. */
    public static int itemOf(int slot) {
        return (slot >>> ITEM_SHIFT) - 1;
    }
}
