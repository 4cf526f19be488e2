package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Outline.Block;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Outline.Equality;
import tidybridge.core.sql.Outline.Item;
import tidybridge.core.sql.Outline.TableUse;

/**
 * Tells whether some fields tell all rows of a query apart, by following what determines what: a table's key determines its other
 * columns, an equality determines one side by the other (functional dependencies; Armstrong's axioms). With no fields at all it tells
 * whether there can be more than one row.
 */
final class Uniqueness {

    /** What can be said. */
    enum Verdict {
        YES,
        NO,
        /** The text is not understood well enough, or rows come from something without keys, such as a view. */
        UNKNOWN
    }

    private final Outline outline;
    private final Contents contents;
    private final Set<String> determined = new HashSet<>();

    Uniqueness(Outline outline, Contents contents) {
        this.outline = outline;
        this.contents = contents;
    }

    /** Whether no two rows agree in all of these fields. */
    Verdict of(List<String> fields) {
        Block block = outline.main();
        if (block == null || outline.combined()) {
            return Verdict.UNKNOWN;
        }
        if (block.aggregated() || block.limitsToOne()) {
            return Verdict.YES;
        }
        fields.forEach(field -> determine(selected(field, block)));
        block.equalities().stream()
                .filter(equality -> equality.right() == null)
                .forEach(equality -> determine(resolved(equality.left(), block)));
        boolean tablesDetermined = close(block);
        if (block.hasGroups()) {
            return grouped(fields, block);
        }
        if (tablesDetermined || block.distinct() && allSelected(block)) {
            return Verdict.YES;
        }
        boolean known = block.tables().stream().allMatch(table -> relation(table) != null);
        return known ? Verdict.NO : Verdict.UNKNOWN;
    }

    private boolean allSelected(Block block) {
        return block.items().stream().allMatch(item -> {
            String column = item.column() == null ? null : resolved(item.column(), block);
            return column != null && determined.contains(column);
        });
    }

    private Verdict grouped(List<String> fields, Block block) {
        List<ColumnRef> columns = block.grouped();
        if (columns == null) {
            return Verdict.UNKNOWN;
        }
        for (ColumnRef column : columns) {
            String resolved = resolved(column, block);
            boolean selected = column.alias() == null && fields.contains(column.column());
            if (!selected && (resolved == null || !determined.contains(resolved))) {
                return resolved == null ? Verdict.UNKNOWN : Verdict.NO;
            }
        }
        return Verdict.YES;
    }

    private void determine(@Nullable String column) {
        if (column != null) {
            determined.add(column);
        }
    }

    /** Follows the dependencies until nothing new is determined; true when every table's row is. */
    private boolean close(Block block) {
        List<TableUse> open = new ArrayList<>(block.tables());
        int before = -1;
        while (before != determined.size() + open.size()) {
            before = determined.size() + open.size();
            open.removeIf(this::determines);
            for (Equality equality : block.equalities()) {
                ColumnRef right = equality.right();
                if (right != null) {
                    follow(resolved(equality.left(), block), resolved(right, block), equality.oneWay());
                }
            }
        }
        return open.isEmpty();
    }

    private void follow(@Nullable String left, @Nullable String right, boolean oneWay) {
        if (left != null && right != null) {
            if (determined.contains(right)) {
                determined.add(left);
            } else if (!oneWay && determined.contains(left)) {
                determined.add(right);
            }
        }
    }

    /** True, with all of the table's columns determined, when one of its keys is. */
    private boolean determines(TableUse table) {
        Relation relation = relation(table);
        if (relation == null) {
            return false;
        }
        for (Index key : relation.keys()) {
            if (key.columns().stream().allMatch(column -> determined.contains(id(table, column)))) {
                relation.columns().forEach(column -> determined.add(id(table, column.name())));
                return true;
            }
        }
        return false;
    }

    /** A table of the catalog; null for a view and for what the statement computes. */
    private @Nullable Relation relation(TableUse table) {
        String name = table.name();
        return name == null
                ? null
                : contents.relation(name)
                        .filter(relation -> relation.kind() == Relation.Kind.TABLE)
                        .orElse(null);
    }

    private @Nullable String selected(String field, Block block) {
        for (Item item : block.items()) {
            if (item.name() != null && item.name().equalsIgnoreCase(field)) {
                ColumnRef column = item.column();
                return column == null ? null : resolved(column, block);
            }
        }
        boolean star = block.items().stream().anyMatch(Item::star);
        return star ? resolved(new ColumnRef(null, field), block) : null;
    }

    private @Nullable String resolved(ColumnRef column, Block block) {
        TableUse found = null;
        for (TableUse table : block.tables()) {
            if (column.alias() != null) {
                if (table.alias().equalsIgnoreCase(column.alias())) {
                    return id(table, column.column());
                }
            } else if (has(table, column.column())) {
                if (found != null) {
                    return null;
                }
                found = table;
            }
        }
        return found == null ? null : id(found, column.column());
    }

    private boolean has(TableUse table, String column) {
        String name = table.name();
        return name != null
                && contents.relation(name)
                        .flatMap(relation -> relation.column(column))
                        .map(Column::name)
                        .isPresent();
    }

    private static String id(TableUse table, String column) {
        return (table.alias() + "." + column).toLowerCase(Locale.ROOT);
    }
}
