package tidybridge.engine.mariadb;

import java.net.SocketTimeoutException;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;
import tidybridge.engine.Failures;

/** Sorts MariaDB's errors by what a caller can do about them. */
final class MariaDbFailures implements Failures {

    /** Too many connections, shutting down, more connections of one user than it may have, connection killed. */
    private static final Set<Integer> COME_AGAIN = Set.of(1040, 1053, 1203, 1226, 1927);

    /** Query interrupted, max_statement_time exceeded. */
    private static final Set<Integer> STOPPED = Set.of(1317, 1969, 3024);

    /** Waited too long for a lock; deadlock; the row changed since it was read. */
    private static final Set<Integer> BUSY = Set.of(1205, 1213, 1020);

    /** What another try of the whole transaction may mend: not a wait that was long already. */
    private static final Set<Integer> SERIALIZATION = Set.of(1213, 1020);

    /** A table, column, routine, schema or view that the user may not use so, or a privilege it lacks. */
    private static final Set<Integer> DENIED = Set.of(1044, 1142, 1143, 1227, 1370, 1419, 1449);

    /** What would commit inside a branch of a distributed transaction: XAER_RMFAIL. */
    private static final int NOT_IN_BRANCH = 1399;

    /** Of a savepoint or a routine. */
    private static final int NAME_UNKNOWN = 1305;

    private static final int SCHEMA_DENIED = 1044;
    private static final int USER_DENIED = 1045;
    private static final int SCHEMA_UNKNOWN = 1049;

    private static final Map<Integer, ConditionKind> OF_VALUES = Map.ofEntries(
            Map.entry(1022, ConditionKind.DUPLICATE),
            Map.entry(1062, ConditionKind.DUPLICATE),
            Map.entry(1169, ConditionKind.DUPLICATE),
            Map.entry(1586, ConditionKind.DUPLICATE),
            Map.entry(1217, ConditionKind.STILL_REFERRED_TO),
            Map.entry(1451, ConditionKind.STILL_REFERRED_TO),
            Map.entry(1216, ConditionKind.REFERENCE_MISSING),
            Map.entry(1452, ConditionKind.REFERENCE_MISSING),
            Map.entry(4025, ConditionKind.CHECK_FAILED),
            Map.entry(1048, ConditionKind.VALUE_MISSING),
            Map.entry(1364, ConditionKind.VALUE_MISSING),
            Map.entry(1406, ConditionKind.TOO_LONG),
            Map.entry(1264, ConditionKind.OUT_OF_RANGE),
            Map.entry(1690, ConditionKind.OUT_OF_RANGE),
            Map.entry(1265, ConditionKind.WRONG_FORM),
            Map.entry(1292, ConditionKind.WRONG_FORM),
            Map.entry(1366, ConditionKind.WRONG_FORM),
            Map.entry(1411, ConditionKind.WRONG_FORM));

    /** Where the server's sentences name a key, a constraint or a column. */
    private static final Pattern NAMED = Pattern.compile(
            "for key '(?:[^'.]+\\.)?([^']+)'|CONSTRAINT `([^`]+)`|[Cc]olumn '([^']+)'|Field '([^']+)'|[Cc]olumn `(?:[^`]+`\\.`)*([^`]+)`");

    /** The class of SQLSTATEs that the standard leaves to the code of the database itself (SQL, part 4: SIGNAL). */
    private static final String SIGNAL_CLASS = "45";

    @Override
    public Condition condition(SQLException e) {
        ConditionKind kind = kind(e);
        String words = kind == ConditionKind.SIGNALLED ? reason(e) : "";
        return new Condition(kind, e.getSQLState(), e.getErrorCode(), named(e), words);
    }

    private @Nullable String named(SQLException e) {
        Matcher matcher = NAMED.matcher(reason(e));
        while (matcher.find()) {
            for (int group = 1; group <= matcher.groupCount(); group++) {
                if (matcher.group(group) != null) {
                    return matcher.group(group);
                }
            }
        }
        return null;
    }

    private ConditionKind kind(SQLException e) {
        int number = e.getErrorCode();
        // first, because the driver's own class of exception for it says that the connection is to blame
        if (e.getSQLState() != null && e.getSQLState().startsWith(SIGNAL_CLASS)) {
            return ConditionKind.SIGNALLED;
        }
        if (isTimeout(e) || STOPPED.contains(number)) {
            return ConditionKind.TIMED_OUT;
        }
        if (BUSY.contains(number)) {
            return ConditionKind.ROWS_BUSY;
        }
        ConditionKind ofValues = OF_VALUES.get(number);
        if (ofValues != null) {
            return ofValues;
        }
        if (DENIED.contains(number)) {
            return ConditionKind.DENIED;
        }
        if (isBroken(e) || COME_AGAIN.contains(number) || number == 0 && e instanceof SQLTransientConnectionException) {
            return ConditionKind.UNREACHABLE;
        }
        return ConditionKind.OTHER;
    }

    @Override
    public boolean isSerialization(SQLException e) {
        return SERIALIZATION.contains(e.getErrorCode()) || "40001".equals(e.getSQLState());
    }

    @Override
    public boolean isBroken(SQLException e) {
        String state = e.getSQLState();
        return state != null && state.startsWith("08") || e.getErrorCode() == 1927 || e.getErrorCode() == 1053;
    }

    @Override
    public boolean isTimeout(SQLException e) {
        for (Throwable cause = e; cause != null; cause = cause.getCause()) {
            if (cause instanceof SocketTimeoutException) {
                return true;
            }
        }
        return false;
    }

    @Override
    public boolean isSavepointGone(SQLException e) {
        return e.getErrorCode() == NAME_UNKNOWN;
    }

    @Override
    public boolean isCommitInRehearsal(SQLException e) {
        return e.getErrorCode() == NOT_IN_BRANCH;
    }

    @Override
    public boolean isUserRefused(SQLException e) {
        return e.getErrorCode() == USER_DENIED || e.getErrorCode() == SCHEMA_DENIED;
    }

    @Override
    public boolean isSchemaUnknown(SQLException e) {
        return e.getErrorCode() == SCHEMA_UNKNOWN;
    }

    /** The driver puts its connection number first. */
    @Override
    public String reason(SQLException e) {
        return String.valueOf(e.getMessage())
                .replaceFirst("^\\(conn[^)]*\\)\\s*", "")
                .strip();
    }
}
