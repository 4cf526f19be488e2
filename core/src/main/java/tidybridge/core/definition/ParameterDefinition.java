package tidybridge.core.definition;

import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * An input of an operation.
 *
 * @param name the bind parameter's name
 * @param wireName the name in the request; a JSON Pointer for a part of the body, empty for the whole of it
 * @param typed false when the text does not say its type, which keeps it from being published
 * @param required always true for a path parameter
 * @param nullable true when a JSON body may say {@code null}, which is bound as NULL and is not the same as being absent
 * @param defaultText bound when the input is absent; null for none
 * @param example shown in the reference; null for none. Of a list, its items with commas between them
 * @param list what a list may hold; null for every other type
 * @param deprecated null while callers may use it
 */
public record ParameterDefinition(
        String name,
        String wireName,
        Place place,
        In in,
        ParameterType type,
        boolean typed,
        boolean required,
        boolean nullable,
        @Nullable String about,
        @Nullable String defaultText,
        @Nullable String example,
        Constraints constraints,
        @Nullable ListRule list,
        @Nullable Deprecation deprecated) {

    /** True when a request may leave it out and nothing takes its place. */
    public boolean mayBeAbsent() {
        return !required && defaultText == null && in != In.REQUEST;
    }
}
