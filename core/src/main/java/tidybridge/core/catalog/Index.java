package tidybridge.core.catalog;

import java.util.List;

/**
 * An index of a table.
 *
 * @param unique no two rows share its values, as long as none of them is null
 * @param primary the table's primary key
 */
public record Index(String name, boolean unique, boolean primary, List<String> columns) {
    public Index {
        columns = List.copyOf(columns);
    }
}
