package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.PageRule;

/**
 * Answers with a page of rows.
 *
 * @param scope what a continuation is sealed for
 */
public record CollectionPlan(
        OperationHeader header,
        StatementPlan statement,
        List<ShapedField> fields,
        PageOrder order,
        PageRule page,
        String scope)
        implements ReadPlan {
    public CollectionPlan {
        fields = List.copyOf(fields);
    }

    @Override
    public AnswerKind answer() {
        return AnswerKind.ROWS;
    }
}
