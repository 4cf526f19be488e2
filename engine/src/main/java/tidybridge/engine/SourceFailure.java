package tidybridge.engine;

import java.sql.SQLException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;

/** A statement could not be run to its end. The message is for the log of the service, not for callers. */
public final class SourceFailure extends Exception {

    private final Condition condition;
    private final boolean repeatable;
    private final boolean commitInRehearsal;

    /** A failure that no error of the database tells of. */
    SourceFailure(Condition condition, String message) {
        this(condition, message, null, false, false);
    }

    private SourceFailure(
            Condition condition,
            String message,
            @Nullable SQLException cause,
            boolean repeatable,
            boolean commitInRehearsal) {
        super(message, cause);
        this.condition = condition;
        this.repeatable = repeatable;
        this.commitInRehearsal = commitInRehearsal;
    }

    /** What an error of the database means. */
    static SourceFailure of(SQLException cause, Failures failures, Condition condition, String message) {
        return new SourceFailure(
                condition, message, cause, failures.isSerialization(cause), failures.isCommitInRehearsal(cause));
    }

    /** What the database reported. */
    public Condition condition() {
        return condition;
    }

    public ConditionKind kind() {
        return condition.kind();
    }

    /** True when the same transaction may succeed a moment later: others were in its way. */
    boolean isRepeatable() {
        return repeatable;
    }

    /** True when something would have committed, or changed the schema, inside a rehearsal. */
    public boolean isCommitInRehearsal() {
        return commitInRehearsal;
    }

    /** True when the transaction around the statement is gone, or its connection. */
    public boolean endsTransaction() {
        return repeatable || kind().endsTransaction();
    }
}
