package tidybridge.core.definition;

import java.math.BigDecimal;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Limits on a parameter, in JSON Schema words; null or an empty list where the text sets none.
 *
 * @param minLength in Unicode code points
 * @param maxLength in Unicode code points
 * @param pattern must be found in the text; anchors are the writer's business, as in JSON Schema
 * @param allowed the {@code enum}, as texts
 */
public record Constraints(
        @Nullable BigDecimal minimum,
        @Nullable BigDecimal maximum,
        @Nullable Integer minLength,
        @Nullable Integer maxLength,
        @Nullable Pattern pattern,
        List<String> allowed) {

    public static final Constraints NONE = new Constraints(null, null, null, null, null, List.of());

    public Constraints {
        allowed = List.copyOf(allowed);
    }
}
