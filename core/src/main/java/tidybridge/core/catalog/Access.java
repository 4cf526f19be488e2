package tidybridge.core.catalog;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How the database would read one table of a query.
 *
 * @param table what the statement calls it; {@code <derived2>} and the like for a part computed before
 * @param way how it reads
 * @param index the index it uses, null for none
 * @param rows how many rows it expects to look at, each time
 * @param candidates the indexes it could have used
 * @param notes what it says beside, such as {@code Using filesort}
 */
public record Access(
        int select,
        String table,
        Way way,
        @Nullable String index,
        List<String> candidates,
        long rows,
        List<String> notes) {
    public Access {
        candidates = List.copyOf(candidates);
        notes = List.copyOf(notes);
    }

    /** How a table is read. */
    public enum Way {
        /** No table at all, or one settled before the query runs. */
        NONE,
        /** One row by a unique key. */
        ONE_ROW,
        /** The rows with one value of an index. */
        EQUAL,
        /** A stretch of an index, or several. */
        RANGE,
        /** A whole index from end to end. */
        WHOLE_INDEX,
        /** Every row of the table. */
        WHOLE_TABLE
    }

    /** True when the server sorts rows that come in another order. */
    public boolean sorts() {
        return notes.contains("Using filesort");
    }

    /** The access in a sentence for people. */
    public String sentence() {
        String by = index == null ? "" : " by the index " + index;
        String about = " (about " + rows + (rows == 1 ? " row)" : " rows)");
        String reading = switch (way) {
            case NONE -> table.isEmpty() ? "no table is read" : table + ": settled before the query runs";
            case ONE_ROW -> table + ": one row" + by;
            case EQUAL -> table + ": the rows with one value" + by + about;
            case RANGE -> table + ": a range" + by + about;
            case WHOLE_INDEX -> table + ": the whole index " + index + about;
            case WHOLE_TABLE -> table + ": every row" + about;
        };
        return sorts() ? reading + ", then sorted" : reading;
    }
}
