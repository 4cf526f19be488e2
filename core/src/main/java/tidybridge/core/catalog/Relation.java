package tidybridge.core.catalog;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A table or a view.
 *
 * @param rows how many the database believes there are; -1 when it does not say, as for a view
 * @param about its comment, empty for none
 * @param definition a view's query as the database tells it; null for a table, and where its user may not see it
 * @param transactional false for a storage engine that cannot undo a change
 * @param checks conditions that every row fulfils
 */
public record Relation(
        String name,
        Kind kind,
        long rows,
        String about,
        boolean transactional,
        @Nullable String definition,
        List<Column> columns,
        List<Index> indexes,
        List<ForeignKey> foreignKeys,
        List<Check> checks) {

    /** A condition by its name, {@code `level_m` between 0 and 9.99}; that of a column has the column's name. */
    public record Check(String name, String condition) {}

    /** What it is. */
    public enum Kind {
        TABLE,
        VIEW
    }

    public Relation {
        columns = List.copyOf(columns);
        indexes = List.copyOf(indexes);
        foreignKeys = List.copyOf(foreignKeys);
        checks = List.copyOf(checks);
    }

    /** One without checks. */
    public Relation(
            String name,
            Kind kind,
            long rows,
            String about,
            boolean transactional,
            @Nullable String definition,
            List<Column> columns,
            List<Index> indexes,
            List<ForeignKey> foreignKeys) {
        this(name, kind, rows, about, transactional, definition, columns, indexes, foreignKeys, List.of());
    }

    /** Finds a column; names of columns are compared without case, as SQL does. */
    public Optional<Column> column(String column) {
        return columns.stream()
                .filter(known -> known.name().equalsIgnoreCase(column))
                .findFirst();
    }

    /** Indexes that tell every row apart: unique, over columns that are never null. */
    public List<Index> keys() {
        return indexes.stream()
                .filter(index -> index.unique()
                        && index.columns().stream()
                                .allMatch(name -> column(name)
                                        .map(column -> !column.nullable())
                                        .orElse(false)))
                .toList();
    }
}
