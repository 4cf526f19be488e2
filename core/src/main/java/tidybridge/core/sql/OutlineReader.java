package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Outline.Block;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Outline.Item;
import tidybridge.core.sql.Token.Kind;

/** Reads an {@link Outline} from the tokens of a statement, block by block. */
final class OutlineReader {

    private static final Set<Word> SET_OPERATIONS = EnumSet.of(Word.UNION, Word.EXCEPT, Word.INTERSECT);
    private static final Set<Word> AGGREGATES = EnumSet.of(
            Word.COUNT,
            Word.SUM,
            Word.MIN,
            Word.MAX,
            Word.AVG,
            Word.GROUP_CONCAT,
            Word.JSON_ARRAYAGG,
            Word.JSON_OBJECTAGG,
            Word.BIT_AND,
            Word.BIT_OR,
            Word.BIT_XOR,
            Word.STD,
            Word.STDDEV,
            Word.VARIANCE);

    private final TokenView view;
    private final int[] partOf;
    private final UseReader uses;
    private final List<Block> blocks = new ArrayList<>();
    private final Set<String> defined = new HashSet<>();
    private int main = Integer.MAX_VALUE;

    OutlineReader(TokenView view, int[] partOf) {
        this.view = view;
        this.partOf = partOf;
        this.uses = new UseReader(view);
    }

    Outline read(StatementKind kind) {
        boolean combined = false;
        switch (kind) {
            case QUERY -> combined = query(0, view.size(), null);
            case INSERT, REPLACE -> insert();
            case UPDATE, DELETE -> uses.change(partOf, defined);
            case CALL, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN -> {}
        }
        uses.arguments();
        return new Outline(main < blocks.size() ? blocks.get(main) : null, blocks, combined, uses.uses());
    }

    /** Reads what stands between two tokens as a query; true when it combines several. */
    private boolean query(int from, int to, @Nullable Block parent) {
        int start = from;
        while (start < to && view.kind(start) == Kind.OPEN && view.close(start) == to - 1) {
            start++;
            to--;
        }
        if (start < to && view.is(start, Word.WITH)) {
            start = with(start + 1, to);
        }
        if (from == 0) {
            main = blocks.size();
        }
        boolean combined = false;
        int begin = start;
        for (int i = start; i <= to; i++) {
            if (i == to || SET_OPERATIONS.contains(view.word(i))) {
                combined |= i < to;
                part(begin, i, parent);
                begin = i + 1;
                if (begin < to && (view.is(begin, Word.ALL) || view.is(begin, Word.DISTINCT))) {
                    begin++;
                }
            } else if (view.kind(i) == Kind.OPEN) {
                i = view.close(i);
            }
        }
        return combined;
    }

    private void part(int from, int to, @Nullable Block parent) {
        if (from < to && view.is(from, Word.SELECT)) {
            select(from, to, parent);
        } else if (from < to && view.kind(from) == Kind.OPEN) {
            query(from, Math.min(view.close(from) + 1, to), parent);
        }
    }

    /** {@code name [(columns)] as (query), ...}: what is defined is no table of the catalog. */
    private int with(int from, int to) {
        int i = from < to && view.is(from, Word.RECURSIVE) ? from + 1 : from;
        while (i < to) {
            defined.add(view.name(i).toLowerCase(Locale.ROOT));
            i++;
            if (i < to && view.kind(i) == Kind.OPEN) {
                i = view.close(i) + 1;
            }
            if (i < to && view.is(i, Word.AS)) {
                i++;
            }
            if (i < to && view.kind(i) == Kind.OPEN) {
                query(i, view.close(i) + 1, null);
                i = view.close(i) + 1;
            }
            if (i < to && view.is(i, ',')) {
                i++;
            } else {
                return i;
            }
        }
        return i;
    }

    private void select(int from, int to, @Nullable Block parent) {
        int place = blocks.size();
        boolean distinct = from + 1 < to && (view.is(from + 1, Word.DISTINCT) || view.is(from + 1, Word.DISTINCTROW));
        int fromClause = view.clause(Word.FROM, from + 1, to);
        int itemsEnd = Math.min(fromClause, view.endOfClause(from + 1, to));
        List<Item> items = items(distinct ? from + 2 : from + 1, itemsEnd);
        FromReader read = new FromReader(view, partOf, defined);
        int tablesEnd = fromClause < to ? view.endOfClause(fromClause + 1, to) : to;
        if (fromClause < to) {
            read.tables(fromClause + 1, tablesEnd);
        }
        int where = view.clause(Word.WHERE, from + 1, to);
        if (where < to) {
            read.equalities(where + 1, view.endOfClause(where + 1, to));
        }
        int group = view.clause(Word.GROUP, from + 1, to);
        boolean hasGroups = group < to;
        int limit = view.clause(Word.LIMIT, from + 1, to);
        Block block = new Block(
                read.tables(),
                items,
                read.equalities(),
                hasGroups ? view.columns(group + 2, view.endOfClause(group + 2, to)) : null,
                hasGroups,
                !hasGroups && aggregates(from + 1, itemsEnd),
                distinct,
                limit < to
                        && partOf[limit] < 0
                        && limit + 1 < to
                        && view.text(limit + 1).equals("1")
                        && (limit + 2 == to || !view.is(limit + 2, ',')),
                parent);
        blocks.add(place, block);
        nested(from + 1, to, block);
        uses.compare(from + 1, to, block, null);
    }

    private List<Item> items(int from, int to) {
        List<Item> items = new ArrayList<>();
        int begin = from;
        for (int i = from; i <= to; i++) {
            if (i == to || view.is(i, ',')) {
                if (begin < i) {
                    items.add(item(begin, i));
                }
                begin = i + 1;
            } else if (view.kind(i) == Kind.OPEN) {
                i = view.close(i);
            }
        }
        return items;
    }

    private Item item(int from, int to) {
        int offset = view.offset(from);
        if (view.is(to - 1, '*') && (to - from == 1 || view.is(to - 2, '.'))) {
            return new Item(null, null, true, offset);
        }
        boolean named = to - from >= 3 && view.is(to - 2, Word.AS);
        int end = named ? to - 2 : to;
        ColumnRef column = view.column(from, end);
        if (named) {
            return new Item(view.name(to - 1), column, false, offset);
        }
        // a name right behind a column, without AS
        if (column == null && view.isName(to - 1) && to - 1 > from && !view.is(to - 2, '.')) {
            column = view.column(from, to - 1);
            return new Item(column == null ? null : view.name(to - 1), column, false, offset);
        }
        return new Item(column == null ? null : column.column(), column, false, offset);
    }

    private boolean aggregates(int from, int to) {
        for (int i = from; i < to - 1; i++) {
            if (view.kind(i) == Kind.OPEN && i + 1 < to && view.is(i + 1, Word.SELECT)) {
                i = view.close(i);
            } else if (AGGREGATES.contains(view.word(i)) && view.kind(i + 1) == Kind.OPEN) {
                int behind = view.close(i + 1) + 1;
                if (behind >= to || !view.is(behind, Word.OVER)) {
                    return true;
                }
            }
        }
        return false;
    }

    /** Reads the queries in parentheses inside a block. */
    private void nested(int from, int to, Block block) {
        for (int i = from; i < to; i++) {
            if (view.kind(i) == Kind.OPEN
                    && i + 1 < view.close(i)
                    && (view.is(i + 1, Word.SELECT) || view.is(i + 1, Word.WITH))) {
                query(i, view.close(i) + 1, block);
                i = view.close(i);
            }
        }
    }

    /** {@code insert into t (a, b) values (:a, :b), ...} and {@code insert into t set a = :a}. */
    private void insert() {
        int into = 1;
        while (into < view.size() && !view.is(into, Word.INTO) && into < 4) {
            into++;
        }
        int at = into < view.size() && view.is(into, Word.INTO) ? into + 1 : 1;
        if (at >= view.size() || !view.isName(at)) {
            return;
        }
        String table = view.name(at);
        int i = at + 1;
        List<ColumnRef> columns = List.of();
        if (i < view.size() && view.kind(i) == Kind.OPEN) {
            List<ColumnRef> named = view.columns(i + 1, view.close(i));
            columns = named == null ? List.of() : named;
            i = view.close(i) + 1;
        }
        if (i < view.size() && (view.is(i, Word.VALUES) || view.is(i, Word.VALUE))) {
            for (i++; i < view.size(); i++) {
                if (view.kind(i) == Kind.OPEN) {
                    uses.values(i, table, columns);
                    i = view.close(i);
                }
            }
        } else if (i < view.size() && (view.is(i, Word.SELECT) || view.is(i, Word.WITH) || view.kind(i) == Kind.OPEN)) {
            query(i, view.size(), null);
        } else {
            uses.compare(i, view.size(), null, table);
        }
    }
}
