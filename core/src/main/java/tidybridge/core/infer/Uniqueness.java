package tidybridge.core.infer;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Relation;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Outline.Block;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Outline.Equality;
import tidybridge.core.sql.Outline.Item;
import tidybridge.core.sql.Outline.Subquery;
import tidybridge.core.sql.Outline.TableUse;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;

/**
 * Tells whether some fields tell all rows of a query apart, by following what determines what: a table's key determines its other
 * columns, an equality determines one side by the other (functional dependencies; Armstrong's axioms). With no fields at all it tells
 * whether there can be more than one row.
 */
public final class Uniqueness {

    /** What can be said. */
    public enum Verdict {
        YES,
        NO,
        /** The text is not understood well enough, or rows come from something that the catalog does not explain. */
        UNKNOWN
    }

    private static final int DEEPEST_VIEW = 8;

    private final Outline outline;
    private final Contents contents;
    private final Views views;
    private final Set<String> determined = new HashSet<>();

    /**
     * Prepares to judge a statement.
     *
     * @param dialect of the source, whose views are read too
     */
    public Uniqueness(Outline outline, Contents contents, Dialect dialect) {
        this(outline, contents, new Views(new HashMap<>(), dialect, DEEPEST_VIEW));
    }

    private Uniqueness(Outline outline, Contents contents, Views views) {
        this.outline = outline;
        this.contents = contents;
        this.views = views.deeper();
    }

    /** The queries of views, read once, to a depth that no sensible schema reaches. */
    private static final class Views {
        private final Map<String, Optional<Outline>> known;
        private final Dialect dialect;
        private final int depth;

        Views(Map<String, Optional<Outline>> known, Dialect dialect, int depth) {
            this.known = known;
            this.dialect = dialect;
            this.depth = depth;
        }

        Views deeper() {
            return new Views(known, dialect, depth - 1);
        }

        @Nullable
        Outline outline(Relation view) {
            String definition = view.definition();
            if (definition == null || depth <= 0) {
                return null;
            }
            return known.computeIfAbsent(view.name(), name -> scanned(name, definition))
                    .orElse(null);
        }

        private Optional<Outline> scanned(String name, String definition) {
            try {
                return Optional.of(Statement.scan(new SourceText(name, definition), dialect)
                        .outline());
            } catch (BrokenText | SeveralStatements e) {
                return Optional.empty();
            }
        }
    }

    /** Whether no two rows agree in all of these fields. */
    public Verdict of(List<String> fields) {
        Block block = outline.main();
        if (block == null || outline.combined()) {
            return Verdict.UNKNOWN;
        }
        if (block.aggregated() || block.limitsToOne()) {
            return Verdict.YES;
        }
        fields.forEach(field -> determine(selected(field, block)));
        block.equalities().stream()
                .filter(equality -> equality.right() == null && isConstant(equality.query(), block))
                .forEach(equality -> determine(resolved(equality.left(), block)));
        boolean tablesDetermined = close(block);
        if (block.hasGroups()) {
            return grouped(fields, block);
        }
        if (tablesDetermined || block.distinct() && allSelected(block)) {
            return Verdict.YES;
        }
        boolean known = block.tables().stream().allMatch(this::isKnown);
        return known ? Verdict.NO : Verdict.UNKNOWN;
    }

    /** A query gives one value for all rows when nothing in it is of the block around it. */
    private boolean isConstant(@Nullable Subquery query, Block around) {
        return query == null || query.names().stream().noneMatch(name -> isOfBlock(name, query, around));
    }

    /** Where nothing tells whose a name is, it is taken for one of the block around. */
    private boolean isOfBlock(ColumnRef name, Subquery query, Block around) {
        String alias = name.alias();
        if (alias != null) {
            return query.tables().stream().noneMatch(table -> table.alias().equalsIgnoreCase(alias));
        }
        boolean inside = query.tables().stream()
                .anyMatch(table -> table.alias().equalsIgnoreCase(name.column())
                        || name.column().equalsIgnoreCase(table.name())
                        || has(table, name.column()));
        return !inside && around.tables().stream().anyMatch(table -> !isTable(table) || has(table, name.column()));
    }

    private boolean isTable(TableUse table) {
        String name = table.name();
        return name != null && contents.relation(table.schema(), name).isPresent();
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

    /** True, with all of the table's columns determined, when what is known of a row of it tells it from every other. */
    private boolean determines(TableUse table) {
        Relation relation = relation(table);
        if (relation == null || !settles(table, relation)) {
            return false;
        }
        relation.columns().forEach(column -> determined.add(id(table, column.name())));
        return true;
    }

    private boolean settles(TableUse table, Relation relation) {
        return switch (relation.kind()) {
            case TABLE ->
                relation.keys().stream()
                        .anyMatch(key ->
                                key.columns().stream().allMatch(column -> determined.contains(id(table, column))));
            case VIEW -> {
                Outline inside = views.outline(relation);
                List<String> known = relation.columns().stream()
                        .map(Column::name)
                        .filter(column -> determined.contains(id(table, column)))
                        .toList();
                yield inside != null && new Uniqueness(inside, contents, views).of(known) == Verdict.YES;
            }
        };
    }

    /** A table or a view whose text is known; null for everything else, of which nothing can be told. */
    private @Nullable Relation relation(TableUse table) {
        String name = table.name();
        return name == null
                ? null
                : contents.relation(table.schema(), name)
                        .filter(relation -> relation.kind() == Relation.Kind.TABLE || views.outline(relation) != null)
                        .orElse(null);
    }

    /** Whether the rows of a table that is no further known could still be told apart by something that is not looked at. */
    private boolean isKnown(TableUse table) {
        Relation relation = relation(table);
        if (relation == null) {
            return false;
        }
        Outline inside = relation.kind() == Relation.Kind.VIEW ? views.outline(relation) : null;
        return relation.kind() == Relation.Kind.TABLE
                || inside != null && new Uniqueness(inside, contents, views).of(List.of()) != Verdict.UNKNOWN;
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
        String alias = column.alias();
        if (alias != null) {
            TableUse table = called(alias, block);
            return table == null ? null : id(table, column.column());
        }
        TableUse found = null;
        for (TableUse table : block.tables()) {
            if (has(table, column.column())) {
                if (found != null) {
                    return null;
                }
                found = table;
            }
        }
        return found == null ? null : id(found, column.column());
    }

    /** By the very name first: where names are case-sensitive, two may differ by case alone. */
    private static @Nullable TableUse called(String alias, Block block) {
        TableUse alike = null;
        for (TableUse table : block.tables()) {
            if (table.alias().equals(alias)) {
                return table;
            }
            if (alike == null && table.alias().equalsIgnoreCase(alias)) {
                alike = table;
            }
        }
        return alike;
    }

    private boolean has(TableUse table, String column) {
        String name = table.name();
        return name != null
                && contents.relation(table.schema(), name)
                        .flatMap(relation -> relation.column(column))
                        .map(Column::name)
                        .isPresent();
    }

    private static String id(TableUse table, String column) {
        // two tables of one statement may differ by case alone
        return table.alias() + "." + column.toLowerCase(Locale.ROOT);
    }
}
