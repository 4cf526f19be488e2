package tidybridge.core.plan;

import tidybridge.core.sql.Purpose;

/**
 * What a caller asks of a collection, as far as it decides how the statement is written. It keys the statement's kept forms, so it is
 * cheap to compare: {@link PageOrder#from} hands out the same ones again and again.
 *
 * @param nulls a bit for each key of the order, from the lowest, that is null in the row to continue after
 * @param depth how many keys of the order {@link Start#FROM} compares; 0 for others
 * @param purpose what the rows are read for
 * @param columns what is read of them
 */
public record PageRequest(
        PageOrder order,
        Start start,
        long nulls,
        int depth,
        Direction direction,
        GivenFilters filters,
        Purpose purpose,
        ReadColumns columns) {

    PageRequest(PageOrder order, Start start, long nulls) {
        this(order, start, nulls, 0, Direction.FORWARD, GivenFilters.NONE, Purpose.PAGE, ReadColumns.ALL);
    }

    /** The same read the other way. */
    public PageRequest backward() {
        return new PageRequest(order, start, nulls, depth, Direction.BACKWARD, filters, purpose, columns);
    }

    /** The same that compares the first keys of the order. */
    public PageRequest deep(int keys) {
        return new PageRequest(order, start, nulls, keys, direction, filters, purpose, columns);
    }

    /** The same of the rows that some conditions leave. */
    public PageRequest with(GivenFilters filters) {
        return filters.isEmpty()
                ? this
                : new PageRequest(order, start, nulls, depth, direction, filters, purpose, columns);
    }

    /** The same for another purpose. */
    public PageRequest with(Purpose purpose) {
        return purpose == this.purpose
                ? this
                : new PageRequest(order, start, nulls, depth, direction, filters, purpose, columns);
    }

    /** The same of some columns. */
    public PageRequest with(ReadColumns columns) {
        return columns == this.columns
                ? this
                : new PageRequest(order, start, nulls, depth, direction, filters, purpose, columns);
    }

    /** True when a key is null in the row to continue after. */
    boolean isNull(int key) {
        return (nulls & 1L << key) != 0;
    }
}
