package tidybridge.engine;

import java.sql.CallableStatement;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;
import tidybridge.core.plan.StepPlan.Out;

/** How the procedures of one kind of database hand values back. */
public interface Outputs {

    /** Says before a call that an argument comes back. */
    void register(CallableStatement statement, Out out) throws SQLException;

    /** What came back, as {@link ValuesRow} takes it; null for NULL. */
    @Nullable
    Object value(CallableStatement statement, Out out) throws SQLException;
}
