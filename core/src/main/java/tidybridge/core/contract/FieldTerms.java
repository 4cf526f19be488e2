package tidybridge.core.contract;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Mask;

/**
 * What is promised of one field of an answer.
 *
 * @param path its name, below the names of the objects it is nested in
 * @param nullable true when it may be null
 * @param mask how it is made unreadable, as definitions write it; null for not at all
 * @param unless the privilege whose holders see it unmasked; null when nobody does
 * @param asText true for a number that is written as a string
 * @param members the values there can be; empty for any
 * @param deprecated null while callers may begin to use it
 */
public record FieldTerms(
        List<String> path,
        FieldType type,
        boolean nullable,
        @Nullable String mask,
        @Nullable String unless,
        boolean asText,
        @Nullable String about,
        @Nullable String example,
        List<String> members,
        @Nullable Deprecation deprecated) {
    public FieldTerms {
        path = List.copyOf(path);
        members = List.copyOf(members);
    }

    static FieldTerms of(ShapedField field) {
        return new FieldTerms(
                field.path(),
                field.type(),
                field.nullable(),
                mask(field.mask()),
                field.unless(),
                field.asText(),
                field.about(),
                field.example(),
                field.members(),
                field.deprecated());
    }

    private static @Nullable String mask(@Nullable Mask mask) {
        return switch (mask) {
            case null -> null;
            case Mask.Whole whole -> "whole";
            case Mask.Last(int characters) -> "last-" + characters;
            case Mask.Email email -> "email";
            case Mask.Hash hash -> "hash";
        };
    }

    /** The path with dots, as definitions and messages write it. */
    public String name() {
        return String.join(".", path);
    }
}
