package tidybridge.core.catalog;

import org.jspecify.annotations.Nullable;

/**
 * A column of a table or view.
 *
 * @param defaultText the expression the database uses when nothing is given; null for none
 * @param generated computed by the database, so that nobody can write it
 * @param numbered counted up by the database
 * @param about the column's comment, empty for none
 */
public record Column(
        String name,
        ColumnType type,
        boolean nullable,
        @Nullable String defaultText,
        boolean generated,
        boolean numbered,
        String about) {}
