package tidybridge.core.catalog;

import java.util.List;

/** Columns whose values must stand in another table; {@code columns} and {@code targets} have the same size. */
public record ForeignKey(String name, List<String> columns, String target, List<String> targets) {
    public ForeignKey {
        columns = List.copyOf(columns);
        targets = List.copyOf(targets);
    }
}
