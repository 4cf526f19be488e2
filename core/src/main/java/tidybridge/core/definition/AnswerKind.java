package tidybridge.core.definition;

/** What an operation returns. */
public enum AnswerKind {
    /** A collection, answered in pages. */
    ROWS,
    /** One object; 404 when there is none. */
    ROW,
    /** The single field of one row. */
    VALUE
}
