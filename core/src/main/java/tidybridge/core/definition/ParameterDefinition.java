package tidybridge.core.definition;

import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * An input of an operation.
 *
 * @param name the bind parameter's name
 * @param wireName the name in the request; the same unless the text says {@code name: ...}
 * @param required always true for a path parameter
 * @param defaultText bound when the input is absent; null for none
 * @param example shown in the reference; null for none
 */
public record ParameterDefinition(
        String name,
        String wireName,
        Place place,
        In in,
        ParameterType type,
        boolean required,
        @Nullable String about,
        @Nullable String defaultText,
        @Nullable String example,
        Constraints constraints) {

    /** True when a request may leave it out and nothing takes its place. */
    public boolean mayBeAbsent() {
        return !required && defaultText == null;
    }
}
