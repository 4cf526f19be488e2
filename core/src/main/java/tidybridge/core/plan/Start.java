package tidybridge.core.plan;

/** Where a page begins, which decides how its statement is written. */
public enum Start {
    /** At the collection's first row. */
    BEGINNING,

    /**
     * After a row whose page held several values of the first order key. The rows that share the last one are few, so the server
     * reads one plain index range and skips them.
     */
    AFTER_CHANGE,

    /** After a row whose whole page shared one value of the first order key. The index range must start inside that value. */
    AFTER_TIES,

    /** At the first row with some order values, or behind where it would stand. */
    FROM
}
