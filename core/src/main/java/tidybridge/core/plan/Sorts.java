package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Sortable;

/**
 * The orders that callers may ask of a collection: some of its fields, and behind them what the text itself orders by, so that no two rows
 * are equal. Thread-safe; orders that were asked for are kept, {@link #MOST_KEPT} at most, because the statement's forms are kept by them.
 */
public final class Sorts {

    /** The most characters of all texts of an order together: a position has to fit into an address, and the server sorts by as many. */
    public static final int LONGEST_ORDER = 1_000;

    /** How many orders are kept. */
    static final int MOST_KEPT = 256;

    private final PageOrder usual;
    private final Map<String, Sorted> fields;
    private final int columns;
    private final long most;
    private final Map<String, PageOrder> kept = new ConcurrentHashMap<>();

    /**
     * A field to sort by.
     *
     * @param name as callers see it
     * @param key in ascending order
     * @param length the most characters that it adds to a position
     */
    public record Sorted(String name, PageOrder.Key key, long length) {}

    /**
     * Makes the orders.
     *
     * @param usual what the text orders by
     * @param columns how many the statement has
     * @param most the characters that the fields may add to a position together
     */
    public Sorts(PageOrder usual, List<Sorted> fields, int columns, long most) {
        this.most = most;
        this.usual = usual;
        this.columns = columns;
        Map<String, Sorted> byName = new LinkedHashMap<>();
        fields.forEach(field -> byName.put(field.name(), field));
        this.fields = byName;
    }

    /** How many columns the statement has. */
    public int columns() {
        return columns;
    }

    /** What the text orders by. */
    public PageOrder usual() {
        return usual;
    }

    /** What callers may name. */
    public Sortable sortable() {
        Map<String, Long> lengths = new LinkedHashMap<>();
        fields.forEach((name, field) -> lengths.put(name, field.length()));
        return new Sortable(lengths, most);
    }

    /**
     * The order that a request asks for.
     *
     * @param sort names of fields with commas between them, a hyphen before those that descend; null for the text's own order
     */
    public PageOrder order(@Nullable String sort) {
        if (sort == null) {
            return usual;
        }
        PageOrder known = kept.get(sort);
        if (known != null) {
            return known;
        }
        if (kept.size() >= MOST_KEPT) {
            kept.clear();
        }
        return kept.computeIfAbsent(sort, this::made);
    }

    private PageOrder made(String sort) {
        List<PageOrder.Key> keys = new ArrayList<>();
        for (String part : sort.split(",")) {
            boolean descending = part.startsWith("-");
            Sorted field = fields.get(descending ? part.substring(1) : part);
            if (field == null) {
                throw new IllegalArgumentException("the sort was checked before");
            }
            keys.add(field.key().directed(descending));
        }
        for (PageOrder.Key key : usual.keys()) {
            if (keys.stream().noneMatch(other -> other.field() == key.field())) {
                keys.add(key);
            }
        }
        return new PageOrder(placed(keys));
    }

    /** What stands for members of lists follows the statement's columns, in the order of the keys. */
    private List<PageOrder.Key> placed(List<PageOrder.Key> keys) {
        List<PageOrder.Key> placed = new ArrayList<>();
        int place = columns;
        for (PageOrder.Key key : keys) {
            placed.add(key.ofMembers() ? key.at(place++) : key);
        }
        return placed;
    }
}
