package tidybridge.core.answer;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Mask;

/**
 * A field of an answer as callers see it.
 *
 * @param column the index of its column in the statement's result
 * @param path its name, below the names of the objects it is nested in
 * @param nullable true when the database cannot promise a value
 * @param mask null for none
 * @param unless the privilege whose holders see it unmasked; null when nobody does
 * @param asText true for a number that is written as a string
 * @param about a sentence for the reference; null for none
 * @param example shown in the reference; null for none
 * @param members the values there can be; empty for any
 * @param deprecated null while callers may begin to use it
 */
public record ShapedField(
        int column,
        List<String> path,
        FieldType type,
        boolean nullable,
        @Nullable Mask mask,
        @Nullable String unless,
        boolean asText,
        @Nullable String about,
        @Nullable String example,
        List<String> members,
        @Nullable Deprecation deprecated) {
    public ShapedField {
        path = List.copyOf(path);
        members = List.copyOf(members);
    }

    /** The path with dots, as definitions and messages write it. */
    public String name() {
        return String.join(".", path);
    }

    /** Shown as the database has it, under one name. */
    public static ShapedField plain(int column, String name, FieldType type, boolean nullable) {
        return new ShapedField(column, List.of(name), type, nullable, null, null, false, null, null, List.of(), null);
    }
}
