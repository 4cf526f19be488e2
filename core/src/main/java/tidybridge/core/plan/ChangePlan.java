package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.BatchRule;
import tidybridge.core.definition.Need;

/**
 * Changes data, or is several statements that must see the same state; then answers with a row, a value or nothing.
 *
 * @param answer a row, a value or nothing
 * @param batch null for an operation on one request's values
 * @param idempotencyKey whether callers must send one
 * @param preview a query that counts what would be changed; null where callers cannot ask
 * @param precondition whether callers must say which state they change
 * @param guard the read of the same route, whose tag tells states apart; null for none
 */
public record ChangePlan(
        OperationHeader header,
        AnswerKind answer,
        List<ShapedField> fields,
        ChangeReply reply,
        StepSequence sequence,
        @Nullable BatchRule batch,
        Need idempotencyKey,
        @Nullable StatementPlan preview,
        Need precondition,
        @Nullable RowPlan guard)
        implements OperationPlan {
    public ChangePlan {
        fields = List.copyOf(fields);
    }

    @Override
    public StatementPlan statement() {
        return main().statement();
    }

    /** The step whose row is the answer. */
    public StepPlan main() {
        return sequence.main();
    }
}
