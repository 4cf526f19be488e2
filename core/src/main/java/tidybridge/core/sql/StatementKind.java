package tidybridge.core.sql;

/** What a statement does. */
public enum StatementKind {
    QUERY,
    INSERT,
    UPDATE,
    DELETE,
    REPLACE,
    CALL,
    SET,
    /** Creates, changes or drops something in the schema, or who may use it. */
    DDL,
    /** Changes or controls the session or the server: transactions, locks, USE, PREPARE. */
    SESSION,
    /** Only tells of the database itself: SHOW, DESCRIBE, EXPLAIN. */
    INFORMATION,
    /** A block of several statements, {@code BEGIN NOT ATOMIC ... END}. */
    SCRIPT,
    UNKNOWN
}
