package tidybridge.core.sheet;

import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The rows of a sheet, one after the other. Used by one thread. */
public interface SheetRows extends AutoCloseable {

    /** The most columns that a sheet may have. */
    int MOST_COLUMNS = 500;

    /** The longest cell that is read, in characters. */
    int LONGEST_CELL = 1_000_000;

    /**
     * One row.
     *
     * @param line where it stands in the file, from 1
     * @param cells an empty text for an empty one
     * @param trouble why it cannot be taken; null when it can
     */
    record Row(long line, List<String> cells, @Nullable String trouble) {
        public Row {
            cells = List.copyOf(cells);
        }
    }

    /** What stands above the columns. */
    List<String> headings();

    /** The next row that is not empty; null at the end. */
    @Nullable
    Row next() throws UnreadableSheet, IOException;

    @Override
    void close() throws IOException;
}
