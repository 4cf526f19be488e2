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
 * @param sorts what it is ordered by, and what callers may ask for instead
 * @param filters the conditions that callers may put on it
 */
public record CollectionPlan(
        OperationHeader header,
        StatementPlan statement,
        List<ShapedField> fields,
        Sorts sorts,
        PageRule page,
        Filters filters)
        implements ReadPlan {
    public CollectionPlan {
        fields = List.copyOf(fields);
    }

    /** What it is ordered by unless callers ask for another order. */
    public PageOrder order() {
        return sorts.usual();
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
