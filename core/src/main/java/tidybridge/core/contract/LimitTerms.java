package tidybridge.core.contract;

import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Constraints;

/**
 * Limits of a value in JSON Schema words; null or an empty list where none is set.
 *
 * @param minLength in Unicode code points; of bytes, in bytes
 * @param maxLength in Unicode code points; of bytes, in bytes
 * @param allowed the {@code enum}, as texts
 */
public record LimitTerms(
        @Nullable BigDecimal minimum,
        @Nullable BigDecimal maximum,
        @Nullable BigDecimal exclusiveMinimum,
        @Nullable BigDecimal exclusiveMaximum,
        @Nullable BigDecimal multipleOf,
        @Nullable Integer minLength,
        @Nullable Integer maxLength,
        @Nullable String pattern,
        List<String> allowed) {

    public static final LimitTerms NONE = new LimitTerms(null, null, null, null, null, null, null, null, List.of());

    public LimitTerms {
        allowed = List.copyOf(allowed);
    }

    static LimitTerms of(Constraints constraints) {
        return new LimitTerms(
                constraints.minimum(),
                constraints.maximum(),
                constraints.exclusiveMinimum(),
                constraints.exclusiveMaximum(),
                constraints.multipleOf(),
                constraints.minLength(),
                constraints.maxLength(),
                constraints.pattern() == null ? null : constraints.pattern().text(),
                constraints.allowed());
    }

    /** One of some words. */
    public static LimitTerms words(List<String> allowed) {
        return new LimitTerms(null, null, null, null, null, null, null, null, allowed);
    }

    /** A text of so many characters. */
    public static LimitTerms lengths(int least, int most) {
        return new LimitTerms(null, null, null, null, null, least, most, null, List.of());
    }
}
