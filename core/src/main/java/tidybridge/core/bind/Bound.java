package tidybridge.core.bind;

import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.util.RawValue;

/**
 * Checked, typed values of one request, owned by that request.
 *
 * @param values one for each parameter in the order of the definition; null when absent. Types: String, Long, BigDecimal,
 *     Boolean, LocalDate, LocalTime, LocalDateTime, byte[], a List of those and of {@link Json}, or {@link Given#NULL}
 * @param asked what it asks beside them
 */
public record Bound(@Nullable Object[] values, Asked asked) {

    /** What a request can give that is no value. */
    public enum Given {
        /** A JSON body that says {@code null}: bound as NULL, and not the same as being absent. */
        NULL
    }

    /** An object inside a list, as JSON text; alone an object is a String, because it is bound as one. */
    public record Json(String text) {
        @Override
        public String toString() {
            return text;
        }
    }

    /** A list as the JSON text that is bound where no list of values can stand. */
    public static String text(List<?> list) {
        ArrayNode array = JsonMapper.shared().createArrayNode();
        for (Object item : list) {
            switch (item) {
                case Long number -> array.add(number);
                case BigDecimal number -> array.add(number);
                case Boolean bool -> array.add(bool);
                case byte[] bytes -> array.add(bytes);
                case Json json -> array.addRawValue(new RawValue(json.text()));
                case LocalDateTime time -> array.add(DateTimeFormatter.ISO_LOCAL_DATE_TIME.format(time));
                case LocalTime time -> array.add(DateTimeFormatter.ISO_LOCAL_TIME.format(time));
                default -> array.add(item.toString());
            }
        }
        return array.toString();
    }
}
