package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.ParameterType;

/** What a collection is ordered and continued by. Immutable and thread-safe; each order is one object, equal to itself alone. */
public final class PageOrder {

    private final List<Key> keys;
    private final String label;
    private final PageRequest[] requests = new PageRequest[Start.values().length];

    /**
     * One field of the order.
     *
     * @param field its index in the answer
     * @param nullable whether it may be null; the database puts nulls before every value
     * @param members of what its values are made
     * @param place the index of the column that a page adds for the field's place in its list of members; -1 for a field that is ordered
     *     by its own value
     */
    public record Key(
            String name,
            int field,
            FieldType type,
            boolean descending,
            boolean nullable,
            Field.Members members,
            int place) {

        public Key(String name, int field, FieldType type, boolean descending) {
            this(name, field, type, descending, false, Field.Members.NONE, -1);
        }

        /** The same in a direction. */
        Key directed(boolean isDescending) {
            return new Key(name, field, type, isDescending, nullable, members, place);
        }

        /** The same with its place in another column. */
        Key at(int column) {
            return new Key(name, field, type, descending, nullable, members, column);
        }

        /** The same the other way round. */
        Key reversed() {
            return directed(!descending);
        }

        /** What a value of it is read as that a caller gives; null where callers cannot give one. */
        public @Nullable ParameterType readAs() {
            if (ofMembers()) {
                return null;
            }
            return switch (type) {
                case INTEGER -> ParameterType.INTEGER;
                case DECIMAL -> ParameterType.NUMBER;
                case STRING -> ParameterType.STRING;
                case DATE -> ParameterType.DATE;
                case TIME -> ParameterType.TIME;
                case LOCAL_DATE_TIME -> ParameterType.DATE_TIME_LOCAL;
                case MOMENT -> ParameterType.DATE_TIME;
                case BOOLEAN, FLOAT, BINARY, BITS, GEOMETRY, JSON -> null;
            };
        }

        /** True for what the database orders by places in a list. */
        public boolean ofMembers() {
            return members != Field.Members.NONE;
        }
    }

    /**
     * Makes an order.
     *
     * @param keys at least one, at most 64
     */
    public PageOrder(List<Key> keys) {
        this.keys = List.copyOf(keys);
        this.label = label(keys);
        for (Start start : Start.values()) {
            requests[start.ordinal()] = new PageRequest(this, start, 0);
        }
    }

    public List<Key> keys() {
        return keys;
    }

    /** How many columns a page adds for places of members. */
    public int places() {
        int places = 0;
        for (Key key : keys) {
            places += key.ofMembers() ? 1 : 0;
        }
        return places;
    }

    /** A page in this order, after a row without nulls. */
    public PageRequest from(Start start) {
        return requests[start.ordinal()];
    }

    /**
     * A page in this order.
     *
     * @param nulls a bit for each key, from the lowest, that is null in the row to continue after
     */
    public PageRequest from(Start start, long nulls) {
        return nulls == 0 ? from(start) : new PageRequest(this, start, nulls);
    }

    /** The order as text, part of what a position is sealed for. */
    public String label() {
        return label;
    }

    private static String label(List<Key> keys) {
        StringBuilder text = new StringBuilder();
        for (Key key : keys) {
            text.append(key.descending() ? '-' : '+').append(key.name());
        }
        return text.toString();
    }
}
