package tidybridge.core.reference;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A field of an answer in words.
 *
 * @param name with dots for what is nested
 * @param type and format, as JSON Schema calls them, with {@code or null}
 * @param mask how it is made unreadable, and for whom not; null for never
 * @param limits the values there can be; none for any
 */
public record FieldText(
        String name,
        String type,
        @Nullable String about,
        @Nullable String mask,
        List<String> limits,
        @Nullable String example,
        boolean deprecated) {
    public FieldText {
        limits = List.copyOf(limits);
    }

    /** What a link to it ends with. */
    public String anchor() {
        return Anchors.of("field", name);
    }
}
