package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.catalog.FieldType;

/** What a collection is ordered and continued by. Immutable and thread-safe; each order is one object, equal to itself alone. */
public final class PageOrder {

    private final List<Key> keys;
    private final PageRequest[] requests = new PageRequest[Start.values().length];

    /**
     * One field of the order.
     *
     * @param field its index in the answer
     */
    public record Key(String name, int field, FieldType type, boolean descending) {}

    /**
     * Makes an order.
     *
     * @param keys at least one
     */
    public PageOrder(List<Key> keys) {
        this.keys = List.copyOf(keys);
        for (Start start : Start.values()) {
            requests[start.ordinal()] = new PageRequest(this, start);
        }
    }

    public List<Key> keys() {
        return keys;
    }

    /** A page in this order. */
    public PageRequest from(Start start) {
        return requests[start.ordinal()];
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
