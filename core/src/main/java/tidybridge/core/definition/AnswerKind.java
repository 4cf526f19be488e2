package tidybridge.core.definition;

/** What an operation returns. */
public enum AnswerKind {
    /** A collection, answered in pages. */
    ROWS,
    /** One object; 404 when there is none. */
    ROW,
    /** The single field of one row. */
    VALUE,
    /** No content; 404 when the statement finds no row. */
    NOTHING,
    /** The bytes of one field, with their own media type and name; 404 when there are none. */
    FILE
}
