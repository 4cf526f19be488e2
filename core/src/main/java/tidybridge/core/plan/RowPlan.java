package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.definition.AnswerKind;

/**
 * Answers with one row.
 *
 * @param forms how it can be answered
 */
public record RowPlan(
        OperationHeader header, StatementPlan statement, List<ShapedField> fields, RowReply reply, RowForms forms)
        implements OneRowPlan {
    public RowPlan {
        fields = List.copyOf(fields);
    }

    @Override
    public AnswerKind answer() {
        return AnswerKind.ROW;
    }
}
