package tidybridge.core.bind;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What callers may sort a collection by. Immutable.
 *
 * @param lengths names of fields, in the order of the text, with the characters that each adds to a position at most
 * @param most how many characters all of them may add together
 */
public record Sortable(Map<String, Long> lengths, long most) {

    /** Nothing. */
    public static final Sortable NONE = new Sortable(Map.of(), 0);

    public Sortable {
        lengths = Collections.unmodifiableMap(new LinkedHashMap<>(lengths));
    }
}
