package tidybridge.core.reference;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads the maps and lists of an OpenAPI document, of which every part may be absent. */
public final class ApiText {

    private ApiText() {}

    /** The object under some keys; empty for none. */
    @SuppressWarnings("unchecked")
    public static Map<String, Object> at(Map<String, Object> map, String... keys) {
        Map<String, Object> at = map;
        for (String key : keys) {
            Object next = at.get(key);
            if (!(next instanceof Map<?, ?>)) {
                return Map.of();
            }
            at = (Map<String, Object>) next;
        }
        return at;
    }

    /** The objects of a list; none for anything else. */
    @SuppressWarnings("unchecked")
    public static List<Map<String, Object>> objects(@Nullable Object list) {
        return list instanceof List<?> all
                ? all.stream()
                        .filter(Map.class::isInstance)
                        .map(one -> (Map<String, Object>) one)
                        .toList()
                : List.of();
    }

    /** A text; empty for anything else. */
    public static String text(@Nullable Object value) {
        return value instanceof String text ? text : "";
    }
}
