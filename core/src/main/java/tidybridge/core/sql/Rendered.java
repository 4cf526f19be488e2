package tidybridge.core.sql;

import java.util.List;

/**
 * A statement ready to be prepared.
 *
 * @param sql the text with a {@code ?} for each bind parameter, without comments
 * @param slots what fills each question mark, in their order
 */
public record Rendered(String sql, List<Slot> slots) {

    /**
     * A question mark's filling.
     *
     * @param name the bind parameter
     * @param item which item of a list, counted from 0; -1 for the value as a whole
     */
    public record Slot(String name, int item) {}

    public Rendered {
        slots = List.copyOf(slots);
    }

    /** The bind parameters' names in the order of their question marks. */
    public List<String> binds() {
        return slots.stream().map(Slot::name).toList();
    }
}
