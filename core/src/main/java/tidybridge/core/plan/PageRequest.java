package tidybridge.core.plan;

/**
 * What a caller asks of a collection, as far as it decides how the statement is written. It keys the statement's kept forms, so it is
 * cheap to compare: {@link PageOrder#from} hands out the same ones again and again.
 *
 * @param nulls a bit for each key of the order, from the lowest, that is null in the row to continue after
 */
public record PageRequest(PageOrder order, Start start, long nulls, GivenFilters filters) {

    /** The same of the rows that some conditions leave. */
    public PageRequest with(GivenFilters filters) {
        return filters.isEmpty() ? this : new PageRequest(order, start, nulls, filters);
    }

    /** True when a key is null in the row to continue after. */
    boolean isNull(int key) {
        return (nulls & 1L << key) != 0;
    }
}
