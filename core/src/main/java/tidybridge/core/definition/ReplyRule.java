package tidybridge.core.definition;

import java.time.Duration;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * What an answer says beside its body. Columns are those of the statement that answers, hidden ones too.
 *
 * @param status of the hoped-for answer; null for the usual one
 * @param location the path of what was made inside the module, with {@code {column}} or {@code {parameter}}; null for none
 * @param statusFrom the column that holds the status; null for none
 * @param messageFrom the column that holds a problem's message; null for none
 * @param headers the columns of header fields, by the fields' names
 * @param tag the column whose value tells one state from the next; null for none, or for the representation
 * @param tagged true when answers carry an entity tag
 * @param modified the column that holds the time of the last change; null for none
 * @param fresh how long an answer may be used again without asking; null for not at all
 */
public record ReplyRule(
        Place place,
        @Nullable Integer status,
        @Nullable String location,
        @Nullable String statusFrom,
        @Nullable String messageFrom,
        Map<String, String> headers,
        boolean tagged,
        @Nullable String tag,
        @Nullable String modified,
        @Nullable Duration fresh) {
    public ReplyRule {
        headers = Collections.unmodifiableMap(new LinkedHashMap<>(headers));
    }

    /** Nothing beside the body. */
    public static ReplyRule none(Place place) {
        return new ReplyRule(place, null, null, null, null, Map.of(), false, null, null, null);
    }
}
