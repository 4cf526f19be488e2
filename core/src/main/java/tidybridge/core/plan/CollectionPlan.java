package tidybridge.core.plan;

import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Asked;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.sql.Purpose;
import tidybridge.core.sql.TimeLimit;

/**
 * Answers with a page of rows.
 *
 * @param sorts what it is ordered by, and what callers may ask for instead
 * @param filters the conditions that callers may put on it
 * @param forms how its rows can be answered
 * @param totals how its rows can be counted
 * @param reply what its pages say beside their bodies
 * @param headStart true where the first rows can be read ahead of the others, in the same state of the database
 */
public record CollectionPlan(
        OperationHeader header,
        StatementPlan statement,
        List<ShapedField> fields,
        Sorts sorts,
        PageRule page,
        Filters filters,
        RowForms forms,
        Totals totals,
        RowReply reply,
        boolean headStart)
        implements ReadPlan {
    public CollectionPlan {
        fields = List.copyOf(fields);
    }

    /** What it is ordered by unless callers ask for another order. */
    public PageOrder order() {
        return sorts.usual();
    }

    /**
     * What a request asks for, as far as it decides how the statement is written.
     *
     * @param start where its page begins
     */
    public PageRequest request(Asked asked, PageRequest start, GivenFilters filters) {
        return start.with(filters)
                .with(asked.all() ? Purpose.ALL : Purpose.PAGE)
                .with(forms.choices().choose(asked.fields()).columns());
    }

    /** What callers know a key of an order by; null for what they do not see as it is. */
    public @Nullable String shown(PageOrder.Key key) {
        for (ShapedField field : fields) {
            if (field.column() == key.field() && field.mask() == null) {
                return field.name();
            }
        }
        return null;
    }

    /** How long a request may take. */
    public TimeLimit limit(Asked asked) {
        return asked.all() ? new TimeLimit(page.allTimeout(), Purpose.ALL) : TimeLimit.of(timeout());
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
