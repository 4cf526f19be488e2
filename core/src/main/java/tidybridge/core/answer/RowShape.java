package tidybridge.core.answer;

import java.util.List;

/**
 * Which fields of a row are written, and how. Immutable and thread-safe; each shape is one object, equal to itself alone, because writers
 * are kept by it.
 */
public final class RowShape {

    /** Every field, and objects within objects. */
    public static final RowShape WHOLE = new RowShape(List.of(), false);

    private final List<ShapedField> fields;
    private final boolean flat;

    /**
     * A shape.
     *
     * @param fields in the order in which they are written
     * @param flat true for fields side by side, whatever objects their names would nest them in
     */
    public RowShape(List<ShapedField> fields, boolean flat) {
        this.fields = List.copyOf(fields);
        this.flat = flat;
    }

    /** True for a field that is written; {@link #WHOLE} does not know its own. */
    public boolean has(String name) {
        for (ShapedField field : fields) {
            if (field.name().equals(name)) {
                return true;
            }
        }
        return false;
    }

    /** What is written; empty for {@link #WHOLE}. */
    List<ShapedField> fields() {
        return fields;
    }

    boolean isFlat() {
        return flat;
    }
}
