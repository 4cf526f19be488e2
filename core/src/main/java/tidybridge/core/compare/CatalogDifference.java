package tidybridge.core.compare;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Something that a release counts on, and that a database no longer has, or has in another form.
 *
 * @param object the table, view or routine
 * @param column the column, or the first one of the index; null for the object as a whole
 * @param words one sentence for people
 */
public record CatalogDifference(
        Kind kind, String object, @Nullable String column, String words) {

    /** What became of it. */
    public enum Kind {
        RELATION_GONE,
        COLUMN_GONE,
        COLUMN_RETYPED,
        COLUMN_NULLABLE,
        COLUMN_NEVER_NULL,
        INDEX_GONE,
        ROUTINE_GONE,
        ROUTINE_CHANGED;

        /** The kind as programs read it. */
        public String label() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }
}
