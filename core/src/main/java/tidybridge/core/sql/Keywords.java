package tidybridge.core.sql;

import java.util.Map;
import java.util.Set;

/** The words of MariaDB's SQL that tell what a statement is and where its conditions begin and end; upper case. */
final class Keywords {

    static final Set<String> OPEN_CONDITIONS = Set.of("WHERE", "HAVING", "ON");

    /** What stays when the line it starts may be left out. */
    static final Set<String> STAY = Set.of("WHERE", "HAVING", "ON", "SET");

    static final Set<String> END_CONDITIONS = Set.of(
            "GROUP",
            "HAVING",
            "ORDER",
            "LIMIT",
            "UNION",
            "EXCEPT",
            "INTERSECT",
            "FOR",
            "WINDOW",
            "LOCK",
            "WHERE",
            "JOIN",
            "LEFT",
            "RIGHT",
            "INNER",
            "CROSS",
            "NATURAL",
            "STRAIGHT_JOIN",
            "OFFSET",
            "FETCH",
            "RETURNING",
            "SET");

    static final Map<String, StatementKind> KINDS = Map.ofEntries(
            Map.entry("SELECT", StatementKind.QUERY),
            Map.entry("VALUES", StatementKind.QUERY),
            Map.entry("TABLE", StatementKind.QUERY),
            Map.entry("INSERT", StatementKind.INSERT),
            Map.entry("UPDATE", StatementKind.UPDATE),
            Map.entry("DELETE", StatementKind.DELETE),
            Map.entry("REPLACE", StatementKind.REPLACE),
            Map.entry("CALL", StatementKind.CALL),
            Map.entry("SET", StatementKind.SET),
            Map.entry("CREATE", StatementKind.DDL),
            Map.entry("ALTER", StatementKind.DDL),
            Map.entry("DROP", StatementKind.DDL),
            Map.entry("TRUNCATE", StatementKind.DDL),
            Map.entry("RENAME", StatementKind.DDL),
            Map.entry("GRANT", StatementKind.DDL),
            Map.entry("REVOKE", StatementKind.DDL),
            Map.entry("USE", StatementKind.SESSION),
            Map.entry("LOCK", StatementKind.SESSION),
            Map.entry("UNLOCK", StatementKind.SESSION),
            Map.entry("START", StatementKind.SESSION),
            Map.entry("BEGIN", StatementKind.SESSION),
            Map.entry("COMMIT", StatementKind.SESSION),
            Map.entry("ROLLBACK", StatementKind.SESSION),
            Map.entry("KILL", StatementKind.SESSION),
            Map.entry("LOAD", StatementKind.SESSION),
            Map.entry("PREPARE", StatementKind.SESSION),
            Map.entry("EXECUTE", StatementKind.SESSION),
            Map.entry("SHOW", StatementKind.SESSION));

    private Keywords() {}
}
