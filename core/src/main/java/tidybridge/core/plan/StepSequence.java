package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Isolation;
import tidybridge.core.definition.TransactionOwner;

/**
 * Statements that run in one transaction.
 *
 * @param steps in the order they run
 * @param answeredBy the index of the step whose row is the answer
 * @param values how many values a run needs: the operation's parameters, and what steps hand on
 * @param readOnly true when the database itself must refuse every change
 * @param transaction who begins and ends it
 * @param isolation null for the source's own
 */
public record StepSequence(
        List<StepPlan> steps,
        int answeredBy,
        int values,
        boolean readOnly,
        TransactionOwner transaction,
        @Nullable Isolation isolation) {
    public StepSequence {
        steps = List.copyOf(steps);
    }

    /** The step whose row is the answer. */
    public StepPlan main() {
        return steps.get(answeredBy);
    }
}
