package tidybridge.core.answer;

import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.RowCount;

/**
 * What is said of a page behind its rows.
 *
 * @param limit how many rows it may have
 * @param all true when all rows were asked for
 * @param rows how many it has
 * @param after what continues behind it, as the next call says it; null on the last page
 * @param next the address of the next page; null on the last page
 * @param before what goes back from it, as the next call says it; null where nothing is before it, or nobody may go back
 * @param prev the address of the page before it, null as {@code before} is
 * @param count how many rows all pages have; null when nobody asked
 */
public record PageEnd(
        int limit,
        boolean all,
        int rows,
        @Nullable String after,
        @Nullable String next,
        @Nullable String before,
        @Nullable String prev,
        @Nullable RowCount count) {

    /** True when another page is told. */
    public boolean isLinked() {
        return next != null || prev != null;
    }

    /** True when no row follows. */
    public boolean isLast() {
        return next == null;
    }
}
