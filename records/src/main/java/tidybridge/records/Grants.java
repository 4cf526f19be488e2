package tidybridge.records;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** What the service's own user may do in the record store, given by the user who owns it: some tables are added to only. */
final class Grants {

    private static final Set<String> ADDED_TO_ONLY =
            Set.of("audit_entry", "module_release", "release_contract", "live_change");

    private static final int NO_SUCH_GRANT = 1141;
    private static final int DENIED = 1044;

    /** What the service's user needs where it owns the schema itself. */
    private static final String OF_OWNER =
            "select, insert, update, delete, create, alter, drop, index, references, trigger";

    private Grants() {}

    /**
     * Gives a user exactly what the service needs; what was given for the whole schema is taken away.
     *
     * @param user as {@code current_user()} says it, {@code name@host}
     */
    static void give(Connection owner, String schema, String user) throws SQLException {
        int at = user.lastIndexOf('@');
        String quoted = quoted(user.substring(0, at)) + "@" + quoted(user.substring(at + 1));
        String in = "`" + schema.replace("`", "``") + "`.";
        try (Statement statement = owner.createStatement()) {
            for (String table : tables(statement, schema)) {
                String privileges = ADDED_TO_ONLY.contains(table) ? "select, insert" : "select, insert, update, delete";
                statement.execute("grant " + privileges + " on " + in + "`" + table + "` to " + quoted);
            }
            // last, so that another node that runs already never lacks what it needs
            if (!take(statement, "all privileges", in + "*", quoted)) {
                take(statement, OF_OWNER, in + "*", quoted);
            }
        }
    }

    /** Who may give does not see what others hold, so it is tried. False where an owner does not hold so much that it can be taken. */
    private static boolean take(Statement statement, String privileges, String everything, String user)
            throws SQLException {
        try {
            statement.execute("revoke " + privileges + " on " + everything + " from " + user);
            return true;
        } catch (SQLException e) {
            if (e.getErrorCode() == DENIED) {
                return false;
            }
            if (e.getErrorCode() != NO_SUCH_GRANT) {
                throw e;
            }
            return true;
        }
    }

    private static List<String> tables(Statement statement, String schema) throws SQLException {
        List<String> tables = new ArrayList<>();
        try (ResultSet found = statement.executeQuery(
                "select table_name from information_schema.tables where table_schema = " + quoted(schema))) {
            while (found.next()) {
                tables.add(found.getString(1));
            }
        }
        return tables;
    }

    private static String quoted(String text) {
        return "'" + text.replace("\\", "\\\\").replace("'", "''") + "'";
    }
}
