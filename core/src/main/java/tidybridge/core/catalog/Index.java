package tidybridge.core.catalog;

import java.util.List;

/**
 * An index of a table.
 *
 * @param unique no two rows share its values, as long as none of them is null
 * @param primary the table's primary key
 * @param ofWords finds words in texts, and nothing else (full-text search)
 */
public record Index(String name, boolean unique, boolean primary, boolean ofWords, List<String> columns) {

    /** One that finds values. */
    public Index(String name, boolean unique, boolean primary, List<String> columns) {
        this(name, unique, primary, false, columns);
    }

    public Index {
        columns = List.copyOf(columns);
    }
}
