package tidybridge.core.definition;

import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * What the text says about one column of an answer.
 *
 * @param column as the statement names it
 * @param name what callers see instead, dots for nested objects; null for the column's own
 * @param hidden true when it is no part of the answer, though pages may be ordered by it
 * @param mask null for none
 * @param unless the privilege whose holders see it unmasked; null when nobody does
 * @param as how it is written; null for as its type is
 * @param about a sentence for the reference
 * @param example shown in the reference
 * @param deprecated null while callers may begin to use it
 */
public record FieldRule(
        String column,
        Place place,
        @Nullable String name,
        boolean hidden,
        @Nullable Mask mask,
        @Nullable String unless,
        @Nullable As as,
        @Nullable String about,
        @Nullable String example,
        @Nullable Deprecation deprecated) {

    /** Another way to write a value. */
    public enum As {
        /** A number as a string, for callers whose numbers are not exact. */
        TEXT,
        /** A flag as the number it is, where it can be another than 0 and 1. */
        INTEGER
    }
}
