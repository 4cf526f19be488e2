package tidybridge.core.plan;

import java.util.List;
import java.util.stream.Stream;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.ParameterDefinition;

/**
 * Answers with a page of rows.
 *
 * @param order what it is ordered by unless callers ask for another order
 * @param sorts what they may ask for
 * @param filters the conditions that callers may put on it
 * @param scope what a continuation is sealed for, together with the order and the conditions
 */
public record CollectionPlan(
        OperationHeader header,
        StatementPlan statement,
        List<ShapedField> fields,
        PageOrder order,
        Sorts sorts,
        PageRule page,
        Filters filters,
        String scope)
        implements ReadPlan {
    public CollectionPlan {
        fields = List.copyOf(fields);
    }

    @Override
    public List<ParameterDefinition> inputs() {
        return filters.all().isEmpty()
                ? parameters()
                : Stream.concat(parameters().stream(), filters.parameters().stream())
                        .toList();
    }

    @Override
    public AnswerKind answer() {
        return AnswerKind.ROWS;
    }
}
