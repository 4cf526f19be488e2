package tidybridge.core.sql;

/** What a statement does, told from its first words. */
public enum StatementKind {
    QUERY,
    INSERT,
    UPDATE,
    DELETE,
    REPLACE,
    CALL,
    SET,
    /** Changes the structure of a schema, or what somebody may do with it. */
    DDL,
    /** Changes the session or the server, or speaks to its administration. */
    SESSION,
    UNKNOWN
}
