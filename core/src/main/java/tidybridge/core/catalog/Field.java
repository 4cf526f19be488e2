package tidybridge.core.catalog;

import org.jspecify.annotations.Nullable;

/**
 * A named part of an answer.
 *
 * @param nullable true when the database cannot promise a value
 * @param members how many members of a list that its column declares a value is made of: the database orders such values by their
 *     places in that list, and not as the text they are answered as
 * @param origin the column of a table that it is; null for an expression, and where the database does not tell
 * @param length the most characters of a text or bytes of a binary value; 0 for other types
 */
public record Field(
        String name,
        FieldType type,
        boolean nullable,
        Members members,
        long length,
        @Nullable Origin origin) {

    /** A column of a table or view, as a statement would name it. */
    public record Origin(String schema, String table, String column) {}

    /** What a column's declaration lists. */
    public enum Members {
        /** Nothing: a value stands for itself. */
        NONE,
        /** The values that there can be, as of an enum. */
        ONE,
        /** What values are put together of, as of a set. */
        SEVERAL
    }

    public Field(String name, FieldType type, boolean nullable) {
        this(name, type, nullable, Members.NONE, 0, null);
    }

    public Field withNullable(boolean nullable) {
        return new Field(name, type, nullable, members, length, origin);
    }
}
