package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.definition.AnswerKind;

/** Answers with the file that one row holds. */
public record FilePlan(OperationHeader header, StatementPlan statement, FileColumns columns, RowReply reply)
        implements OneRowPlan {

    @Override
    public AnswerKind answer() {
        return AnswerKind.FILE;
    }

    @Override
    public List<ShapedField> fields() {
        return List.of();
    }
}
