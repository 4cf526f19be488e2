package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.catalog.FieldType;

/**
 * What a collection is ordered and continued by.
 *
 * @param keys at least one
 */
public record PageOrder(List<Key> keys) {

    /**
     * One field of the order.
     *
     * @param field its index in the answer
     */
    public record Key(String name, int field, FieldType type, boolean descending) {}

    public PageOrder {
        keys = List.copyOf(keys);
    }

    /** The order as text, part of what a position is sealed for. */
    public String label() {
        StringBuilder text = new StringBuilder();
        for (Key key : keys) {
            text.append(key.descending() ? '-' : '+').append(key.name());
        }
        return text.toString();
    }
}
