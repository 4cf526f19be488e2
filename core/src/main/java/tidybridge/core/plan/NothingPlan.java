package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.definition.AnswerKind;

/** Answers only that the row is there. */
public record NothingPlan(OperationHeader header, StatementPlan statement, RowReply reply) implements OneRowPlan {

    @Override
    public AnswerKind answer() {
        return AnswerKind.NOTHING;
    }

    @Override
    public List<ShapedField> fields() {
        return List.of();
    }
}
