package tidybridge.core.definition;

import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.pattern.TextPattern;

/**
 * Limits on a parameter, in JSON Schema words; null or an empty list where the text sets none.
 *
 * @param minLength in Unicode code points; for {@link ParameterType#BYTE}, in bytes
 * @param maxLength in Unicode code points; for {@link ParameterType#BYTE}, in bytes
 * @param pattern must be found in the text; anchors are the writer's business, as in JSON Schema
 * @param allowed the {@code enum}, as texts
 */
public record Constraints(
        @Nullable BigDecimal minimum,
        @Nullable BigDecimal maximum,
        @Nullable BigDecimal exclusiveMinimum,
        @Nullable BigDecimal exclusiveMaximum,
        @Nullable BigDecimal multipleOf,
        @Nullable Integer minLength,
        @Nullable Integer maxLength,
        @Nullable TextPattern pattern,
        List<String> allowed) {

    public static final Constraints NONE = new Constraints(null, null, null, null, null, null, null, null, List.of());

    public Constraints {
        allowed = List.copyOf(allowed);
    }

    /** These limits without the {@code enum}, for checking its own members. */
    public Constraints withoutAllowed() {
        return new Constraints(
                minimum,
                maximum,
                exclusiveMinimum,
                exclusiveMaximum,
                multipleOf,
                minLength,
                maxLength,
                pattern,
                List.of());
    }

    /** True when a limit is set that only numbers can have. */
    public boolean limitsNumbers() {
        return minimum != null
                || maximum != null
                || exclusiveMinimum != null
                || exclusiveMaximum != null
                || multipleOf != null;
    }
}
