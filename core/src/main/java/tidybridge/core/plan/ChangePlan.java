package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.BatchRule;
import tidybridge.core.definition.Isolation;
import tidybridge.core.definition.Need;

/**
 * The statements of an operation that changes data, run in one transaction. Immutable and thread-safe.
 *
 * @param steps in the order they run
 * @param answeredBy the index of the step whose row is the answer
 * @param values how many values a run needs: the operation's parameters, and what steps hand on
 * @param readOnly true when the database itself must refuse every change
 * @param isolation null for the source's own
 * @param batch null for an operation on one request's values
 * @param idempotencyKey whether callers must send one
 * @param preview a query that counts what would be changed; null where callers cannot ask
 * @param precondition whether callers must say which state they change
 * @param guard the read of the same route, whose tag tells states apart; null for none
 */
public record ChangePlan(
        List<StepPlan> steps,
        int answeredBy,
        int values,
        boolean readOnly,
        @Nullable Isolation isolation,
        @Nullable BatchRule batch,
        Need idempotencyKey,
        @Nullable StatementPlan preview,
        Need precondition,
        @Nullable OperationPlan guard) {
    public ChangePlan {
        steps = List.copyOf(steps);
    }

    /** The step whose row is the answer. */
    public StepPlan main() {
        return steps.get(answeredBy);
    }

    ChangePlan guardedBy(OperationPlan read) {
        return new ChangePlan(
                steps, answeredBy, values, readOnly, isolation, batch, idempotencyKey, preview, precondition, read);
    }
}
