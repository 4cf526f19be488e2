package tidybridge.core.plan;

import tidybridge.core.answer.RowShape;

/**
 * The fields that a caller chose.
 *
 * @param nested them as objects within objects
 * @param flat them side by side
 * @param columns what is read for them
 */
public record Choice(RowShape nested, RowShape flat, ReadColumns columns) {

    /** True for a field that is among them. */
    public boolean has(String name) {
        return flat.has(name);
    }
}
