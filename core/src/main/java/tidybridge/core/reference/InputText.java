package tidybridge.core.reference;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An input of an operation in words.
 *
 * @param name in the request; a JSON Pointer in a body
 * @param place {@code path}, {@code query}, {@code header}, {@code cookie}, {@code body} or {@code form}
 * @param type and format, as JSON Schema calls them
 * @param limits each in a few words
 * @param usual what counts when it is absent; null for none
 * @param example null for none
 * @param own true for what the service understands of every operation of its kind
 * @param filter the field that it is a condition on; null for every other input
 */
public record InputText(
        String name,
        String place,
        String type,
        boolean required,
        @Nullable String about,
        List<String> limits,
        @Nullable String usual,
        @Nullable String example,
        boolean deprecated,
        boolean own,
        @Nullable String filter) {
    public InputText {
        limits = List.copyOf(limits);
    }

    /** What a link to it ends with. */
    public String anchor() {
        return Anchors.of(place, name);
    }
}
