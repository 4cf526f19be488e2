package tidybridge.core.catalog;

/** How many rows a collection has under the conditions of a request, all of its pages together. */
public sealed interface RowCount {

    long rows();

    /** Counted. */
    record Exact(long rows) implements RowCount {}

    /**
     * As the database expects without reading them.
     *
     * @param least what the number is rarely below
     * @param most what the number is rarely above; -1 when nothing is known
     */
    record Estimate(long rows, long least, long most) implements RowCount {}
}
