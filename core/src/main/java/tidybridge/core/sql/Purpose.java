package tidybridge.core.sql;

/** What the rows of a collection are read for; each has a time limit of its own. */
public enum Purpose {
    /** A page of them. */
    PAGE,
    /** All of them in one answer. */
    ALL,
    /** Their number. */
    COUNT
}
