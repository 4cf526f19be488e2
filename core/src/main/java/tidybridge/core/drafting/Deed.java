package tidybridge.core.drafting;

/** What callers can do with the rows of a table. */
public enum Deed {
    /** All rows, in pages. */
    LIST,
    /** One row by its key. */
    READ,
    /** A new row. */
    ADD,
    /** Some columns of a row. */
    CHANGE,
    /** A row goes. */
    REMOVE;

    /** Whether it only reads. */
    public boolean reads() {
        return this == LIST || this == READ;
    }
}
