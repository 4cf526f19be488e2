package tidybridge.engine;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a rehearsed change did before it was undone.
 *
 * @param tables those that were changed, by name
 * @param written how many rows the database itself counts as inserted, in all tables
 * @param updated how many it counts as changed
 * @param deleted how many it counts as deleted
 * @param heldMillis how long the locks would have been held
 * @param notes what could not be looked at, or cannot be undone, a sentence each
 */
public record RehearsalChanges(
        List<TableChanges> tables, long written, long updated, long deleted, long heldMillis, List<String> notes) {

    /** What became of a row. */
    public enum Kind {
        INSERTED,
        CHANGED,
        DELETED
    }

    /**
     * What became of a table's rows.
     *
     * @param rows some of them; {@code inserted}, {@code changed} and {@code deleted} count all
     */
    public record TableChanges(String table, long inserted, long changed, long deleted, List<RowChange> rows) {
        public TableChanges {
            rows = List.copyOf(rows);
        }
    }

    /** A row, field by field. */
    public record RowChange(Kind kind, List<FieldChange> fields) {
        public RowChange {
            fields = List.copyOf(fields);
        }
    }

    /**
     * A field as text; null for NULL, and where the row was not there.
     *
     * @param key true for a part of the row's key
     */
    public record FieldChange(
            String name,
            boolean key,
            @Nullable String before,
            @Nullable String after) {}

    public RehearsalChanges {
        tables = List.copyOf(tables);
        notes = List.copyOf(notes);
    }
}
