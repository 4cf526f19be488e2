package tidybridge.core.infer;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Outline.Block;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Outline.Item;
import tidybridge.core.sql.Statement;

/**
 * Tells which fields of a query are plain columns that a condition of its own can compare, and still find the same rows as a condition on
 * the field around the query. Immutable and thread-safe.
 */
public final class SelectedColumns {

    private final Dialect dialect;
    private final @Nullable Block block;

    public SelectedColumns(Statement statement) {
        this.dialect = statement.dialect();
        Outline outline = statement.outline();
        this.block = statement.takesConditions() ? outline.main() : null;
    }

    /** What a condition inside of the query calls a field; null where it could find other rows, or nothing can be told. */
    public @Nullable String named(String field) {
        if (block == null) {
            return null;
        }
        List<Item> named = block.items().stream()
                .filter(item -> field.equalsIgnoreCase(item.name()))
                .toList();
        if (named.size() > 1) {
            return null;
        }
        if (named.size() == 1) {
            ColumnRef column = named.getFirst().column();
            return column == null ? null : text(column);
        }
        boolean everything =
                block.tables().size() == 1 && block.items().stream().anyMatch(Item::star);
        boolean understood = block.items().stream().allMatch(item -> item.star() || item.name() != null);
        return everything && understood ? dialect.quoted(field) : null;
    }

    private String text(ColumnRef column) {
        String name = dialect.quoted(column.column());
        return column.alias() == null ? name : dialect.quoted(column.alias()) + "." + name;
    }
}
