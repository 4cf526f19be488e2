package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.definition.AnswerKind;

/** Answers with the one field of one row. */
public record ValuePlan(OperationHeader header, StatementPlan statement, ShapedField field, RowReply reply)
        implements OneRowPlan {

    @Override
    public AnswerKind answer() {
        return AnswerKind.VALUE;
    }

    @Override
    public List<ShapedField> fields() {
        return List.of(field);
    }
}
