package tidybridge.engine;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import tidybridge.core.catalog.Column;

/** How the rows of one kind of database are looked at by people: as texts, by their prints, and counted. */
public interface Inspection {

    /**
     * SQL for a column as a text that people can read: what is long is cut, what is binary is told by its size.
     *
     * @param longest in characters
     */
    String text(Column column, int longest);

    /**
     * The same, told so that two values that differ are told apart as far as can be: what is binary has a print beside its size.
     *
     * @param longest in characters
     */
    String comparable(Column column, int longest);

    /** SQL for 16 hexadecimal digits that differ when a row differs. */
    String print(List<Column> columns);

    /** How many rows a session has written yet, in all tables. */
    Writes writes(Connection connection) throws SQLException;

    /** Rows that were written. */
    record Writes(long inserted, long updated, long deleted) {

        long all() {
            return inserted + updated + deleted;
        }

        /** What came since an earlier count. */
        Writes since(Writes earlier) {
            return new Writes(inserted - earlier.inserted, updated - earlier.updated, deleted - earlier.deleted);
        }
    }
}
