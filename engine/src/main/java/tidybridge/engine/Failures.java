package tidybridge.engine;

import java.sql.SQLException;
import tidybridge.core.condition.Condition;

/** What the errors of one kind of database mean. */
public interface Failures {

    /** What an error is to those who asked. */
    Condition condition(SQLException e);

    /** The server's sentence, without what the driver adds. */
    String reason(SQLException e);

    /** True for a deadlock and its like: the same transaction may succeed a moment later. */
    boolean isSerialization(SQLException e);

    /** True when the connection itself is gone, so that a fresh one may succeed. */
    boolean isBroken(SQLException e);

    /** True when the server did not answer in time. */
    boolean isTimeout(SQLException e);

    /** True when only the statement failed, so that its connection serves the next one. */
    default boolean leavesConnectionFit(SQLException e) {
        return !condition(e).kind().spoilsConnection();
    }

    /** True when there is no savepoint of that name, because its transaction ended. */
    boolean isSavepointGone(SQLException e);

    /** True when something would have committed, or changed the schema, inside a rehearsal. */
    boolean isCommitInRehearsal(SQLException e);

    /** True when the server does not let the user in. */
    boolean isUserRefused(SQLException e);

    /** True when there is no such schema. */
    boolean isSchemaUnknown(SQLException e);
}
