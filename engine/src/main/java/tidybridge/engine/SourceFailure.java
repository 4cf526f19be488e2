package tidybridge.engine;

import java.sql.SQLException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;

/** A statement could not be run to its end. The message is for the log of the service, not for callers. */
public final class SourceFailure extends Exception {

    private final Condition condition;
    private final boolean repeatable;

    SourceFailure(Condition condition, String message, @Nullable SQLException cause) {
        super(message, cause);
        this.condition = condition;
        this.repeatable = cause != null && MariaDbFailures.isSerialization(cause);
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

    /** True when the transaction around the statement is gone, or its connection. */
    public boolean endsTransaction() {
        return repeatable || kind().endsTransaction();
    }
}
