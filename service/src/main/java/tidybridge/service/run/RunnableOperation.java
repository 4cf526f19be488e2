package tidybridge.service.run;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.MaskKey;
import tidybridge.core.answer.RowShape;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.answer.RowWriters;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Inputs;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.engine.Source;

/**
 * An operation with everything a request needs to run it. Immutable and thread-safe.
 *
 * @param guard the read of the same route that tells its states apart; null for none
 * @param states the reads of its module
 * @param reads those that run and whose answers may be had by others
 */
public record RunnableOperation(
        OperationPlan plan,
        Source source,
        RowWriters writers,
        Continuation continuation,
        MaskKey maskKey,
        @Nullable Guard guard,
        ModuleStates states,
        SharedReads<?> reads) {

    /** A read that tells the states of what a change is about to change. */
    public record Guard(RowPlan plan, RowWriters writers) {}

    public static RunnableOperation of(
            OperationPlan plan, ModuleStates states, Source source, Continuation continuation, MaskKey maskKey) {
        RowPlan guard = plan instanceof ChangePlan change ? change.guard() : null;
        return new RunnableOperation(
                plan,
                source,
                new RowWriters(plan.fields(), maskKey),
                continuation,
                maskKey,
                guard == null ? null : new Guard(guard, new RowWriters(guard.fields(), maskKey)),
                states,
                new SharedReads<>());
    }

    /** The writer for the rows that a caller may see. */
    RowWriter writer(Inputs inputs, RowShape shape) {
        RowWriters shaped = writers.as(shape);
        return shaped.isMasked() ? shaped.of(inputs.caller().privileges()) : shaped.forStrangers();
    }

    /** A writer for rows that are only known when they come, such as a procedure's. */
    RowWriter writerOf(List<ShapedField> fields) {
        return new RowWriters(fields, maskKey).forStrangers();
    }
}
