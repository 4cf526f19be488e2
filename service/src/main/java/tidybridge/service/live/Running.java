package tidybridge.service.live;

import tidybridge.core.answer.MaskKey;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.OperationPlan;
import tidybridge.engine.Source;

/** An operation with everything a request needs to run it. Immutable and thread-safe. */
public record Running(OperationPlan plan, Source source, RowWriter writer, Continuation continuation) {

    static Running of(OperationPlan plan, Source source, Continuation continuation, MaskKey maskKey) {
        return new Running(plan, source, new RowWriter(plan.fields(), maskKey), continuation);
    }
}
