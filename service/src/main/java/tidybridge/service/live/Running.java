package tidybridge.service.live;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.engine.Source;

/**
 * An operation with everything a request needs to run it. Immutable and thread-safe.
 *
 * @param guard the read of the same route that tells its states apart; null for none
 */
public record Running(
        OperationPlan plan,
        Source source,
        RowWriter writer,
        Continuation continuation,
        MaskKey maskKey,
        @Nullable Running guard) {

    static Running of(OperationPlan plan, Source source, Continuation continuation, MaskKey maskKey) {
        ChangePlan change = plan.change();
        OperationPlan guard = change == null ? null : change.guard();
        return new Running(
                plan,
                source,
                new RowWriter(plan.fields(), maskKey),
                continuation,
                maskKey,
                guard == null ? null : of(guard, source, continuation, maskKey));
    }

    /** A writer for rows that are only known when they come, such as a procedure's. */
    public RowWriter writerOf(List<ShapedField> fields) {
        return new RowWriter(fields, maskKey);
    }
}
