package tidybridge.core.reference;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Takes the components out of a document that nothing refers to: whoever reads it, and whoever makes code of it, sees what is there only. */
final class Unused {

    private static final String COMPONENTS = "#/components/";

    private Unused() {}

    /**
     * Drops them.
     *
     * @param paths where references begin
     * @param components kinds of components, each by name
     */
    static void drop(Map<String, Object> paths, Map<String, Map<String, Object>> components) {
        Set<String> used = new HashSet<>();
        Deque<Object> open = new ArrayDeque<>(List.of(paths));
        while (!open.isEmpty()) {
            switch (open.pop()) {
                case Map<?, ?> map -> {
                    if (map.get("$ref") instanceof String target && used.add(target)) {
                        String[] place = target.substring(COMPONENTS.length()).split("/");
                        Object component =
                                components.getOrDefault(place[0], Map.of()).get(place[1]);
                        if (component != null) {
                            open.push(component);
                        }
                    }
                    map.values().forEach(value -> push(open, value));
                }
                case List<?> list -> list.forEach(value -> push(open, value));
                default -> {}
            }
        }
        components.forEach(
                (kind, byName) -> byName.keySet().removeIf(name -> !used.contains(COMPONENTS + kind + "/" + name)));
    }

    private static void push(Deque<Object> open, Object value) {
        if (value instanceof Map<?, ?> || value instanceof List<?>) {
            open.push(value);
        }
    }
}
