package tidybridge.core.sql;

/** What a bound value is to a database, which decides what an expression with it returns. */
public enum ValueKind {
    WHOLE_NUMBER,
    EXACT_NUMBER,
    FLOATING_NUMBER,
    TRUTH,
    TEXT,
    DATE,
    TIME,
    DATE_TIME,
    BYTES
}
