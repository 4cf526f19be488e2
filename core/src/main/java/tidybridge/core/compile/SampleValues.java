package tidybridge.core.compile;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.ValueReader;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.plan.Variant;

/** Values to ask a source with about the plan of a form: the text's own examples where it has some. */
final class SampleValues {

    private SampleValues() {}

    /**
     * One for each question mark.
     *
     * @param parameters in the order of the values, and behind them what else is read from the request
     */
    static List<Object> of(Variant form, List<ParameterDefinition> parameters) {
        List<Object> values = new ArrayList<>();
        for (int slot : form.slots()) {
            if (slot == Variant.LIMIT) {
                values.add(26L);
            } else if (slot < 0) {
                values.add("");
            } else if (Variant.value(slot) >= parameters.size()) {
                // from an earlier step: most of them are keys
                values.add(1L);
            } else {
                values.add(value(parameters.get(Variant.value(slot))));
            }
        }
        return values;
    }

    private static Object value(ParameterDefinition parameter) {
        ListRule list = parameter.list();
        ParameterType type = list == null ? parameter.type() : list.type();
        Constraints constraints = list == null ? parameter.constraints() : list.constraints();
        String text = first(parameter.example(), parameter.defaultText(), constraints.allowed());
        if (text != null) {
            try {
                return new ValueReader(type, Constraints.NONE).read(list == null ? text : text.split(",")[0]);
            } catch (ValueReader.Unfit e) {
                return any(type);
            }
        }
        return any(type);
    }

    private static @Nullable String first(@Nullable String example, @Nullable String other, List<String> allowed) {
        if (example != null) {
            return example;
        }
        return other == null && !allowed.isEmpty() ? allowed.getFirst() : other;
    }

    private static Object any(ParameterType type) {
        return switch (type) {
            case INTEGER -> 1L;
            case NUMBER -> BigDecimal.ONE;
            case BOOLEAN -> true;
            case DATE -> LocalDate.of(2031, 5, 1);
            case TIME -> LocalTime.NOON;
            case DATE_TIME, DATE_TIME_LOCAL -> LocalDateTime.of(2031, 5, 1, 12, 0);
            case UUID -> "1b4e28ba-2fa1-4d2e-883f-0016d3cca427";
            case BYTE -> new byte[] {0};
            case STRING, EMAIL -> "a";
            case ARRAY -> "[]";
            case OBJECT -> "{}";
        };
    }
}
