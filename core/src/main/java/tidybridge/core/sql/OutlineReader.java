package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Outline.BindUse;
import tidybridge.core.sql.Outline.Block;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Outline.Equality;
import tidybridge.core.sql.Outline.Item;
import tidybridge.core.sql.Outline.TableUse;
import tidybridge.core.sql.Token.Kind;

/** Reads an {@link Outline} from the tokens of a statement, block by block. */
final class OutlineReader {

    private static final Set<String> CLAUSES = Set.of(
            "FROM",
            "WHERE",
            "GROUP",
            "HAVING",
            "WINDOW",
            "ORDER",
            "LIMIT",
            "OFFSET",
            "FETCH",
            "FOR",
            "LOCK",
            "INTO",
            "UNION",
            "EXCEPT",
            "INTERSECT",
            "PROCEDURE",
            "RETURNING");
    private static final Set<String> SET_OPERATIONS = Set.of("UNION", "EXCEPT", "INTERSECT");
    private static final Set<String> JOINS =
            Set.of("JOIN", "STRAIGHT_JOIN", "LEFT", "RIGHT", "INNER", "CROSS", "NATURAL", "OUTER", "ON", "USING");
    private static final Set<String> AFTER_TABLE =
            Set.of("PARTITION", "USE", "FORCE", "IGNORE", "FOR", "SET", "WHERE", "TABLESAMPLE");
    private static final Set<String> AGGREGATES = Set.of(
            "COUNT",
            "SUM",
            "MIN",
            "MAX",
            "AVG",
            "GROUP_CONCAT",
            "JSON_ARRAYAGG",
            "JSON_OBJECTAGG",
            "BIT_AND",
            "BIT_OR",
            "BIT_XOR",
            "STD",
            "STDDEV",
            "VARIANCE");
    private static final Set<String> COMPARISONS = Set.of("=", "<", ">", "!");
    private static final Set<String> BEFORE_PARENTHESIS = Set.of(
            "IN",
            "AND",
            "OR",
            "NOT",
            "WHERE",
            "ON",
            "HAVING",
            "FROM",
            "JOIN",
            "VALUES",
            "VALUE",
            "AS",
            "USING",
            "SELECT",
            "EXISTS",
            "ANY",
            "ALL",
            "SOME",
            "BETWEEN",
            "LIKE",
            "WHEN",
            "THEN",
            "ELSE",
            "CASE",
            "BY",
            "OVER",
            "KEY",
            "INDEX",
            "INTO",
            "SET",
            "UNION",
            "EXCEPT",
            "INTERSECT",
            "LIMIT",
            "RETURNING",
            "IF");

    private final String text;
    private final List<Token> tokens;
    private final int[] closes;
    private final int[] partOf;
    private final List<Block> blocks = new ArrayList<>();
    private final List<BindUse> uses = new ArrayList<>();
    private final Set<String> defined = new HashSet<>();
    private int main = Integer.MAX_VALUE;

    OutlineReader(String text, List<Token> tokens, int[] partOf) {
        this.text = text;
        this.tokens = tokens;
        this.partOf = partOf;
        this.closes = closes(tokens);
    }

    /** For each opening parenthesis the index of its closing one. */
    private static int[] closes(List<Token> tokens) {
        int[] closes = new int[tokens.size()];
        IntStack open = new IntStack();
        for (int i = 0; i < closes.length; i++) {
            switch (tokens.get(i).kind()) {
                case OPEN -> open.push(i);
                case CLOSE -> closes[open.pop()] = i;
                default -> {}
            }
        }
        return closes;
    }

    Outline read(StatementKind kind) {
        boolean combined = false;
        switch (kind) {
            case QUERY -> combined = query(0, tokens.size(), null);
            case INSERT, REPLACE -> insert();
            case UPDATE, DELETE -> change();
            case CALL, SET, DDL, SESSION, SCRIPT, UNKNOWN -> {}
        }
        arguments();
        return new Outline(main < blocks.size() ? blocks.get(main) : null, blocks, combined, uses);
    }

    /** Reads what stands between two tokens as a query; true when it combines several. */
    private boolean query(int from, int to, @Nullable Block parent) {
        int start = from;
        while (start < to && kind(start) == Kind.OPEN && closes[start] == to - 1) {
            start++;
            to--;
        }
        if (start < to && is(start, "WITH")) {
            start = with(start + 1, to);
        }
        if (from == 0) {
            main = blocks.size();
        }
        boolean combined = false;
        int begin = start;
        for (int i = start; i <= to; i++) {
            if (i == to || kind(i) == Kind.WORD && SET_OPERATIONS.contains(word(i))) {
                combined |= i < to;
                part(begin, i, parent);
                begin = i + 1;
                if (begin < to && (is(begin, "ALL") || is(begin, "DISTINCT"))) {
                    begin++;
                }
            } else if (kind(i) == Kind.OPEN) {
                i = closes[i];
            }
        }
        return combined;
    }

    private void part(int from, int to, @Nullable Block parent) {
        if (from < to && is(from, "SELECT")) {
            select(from, to, parent);
        } else if (from < to && kind(from) == Kind.OPEN) {
            query(from, Math.min(closes[from] + 1, to), parent);
        }
    }

    /** {@code name [(columns)] as (query), ...}: what is defined is no table of the catalog. */
    private int with(int from, int to) {
        int i = from < to && is(from, "RECURSIVE") ? from + 1 : from;
        while (i < to) {
            defined.add(name(i).toLowerCase(Locale.ROOT));
            i++;
            if (i < to && kind(i) == Kind.OPEN) {
                i = closes[i] + 1;
            }
            if (i < to && is(i, "AS")) {
                i++;
            }
            if (i < to && kind(i) == Kind.OPEN) {
                query(i, closes[i] + 1, null);
                i = closes[i] + 1;
            }
            if (i < to && is(i, ",")) {
                i++;
            } else {
                return i;
            }
        }
        return i;
    }

    private void select(int from, int to, @Nullable Block parent) {
        int place = blocks.size();
        boolean distinct = from + 1 < to && (is(from + 1, "DISTINCT") || is(from + 1, "DISTINCTROW"));
        int fromClause = clause("FROM", from + 1, to);
        int itemsEnd = Math.min(fromClause, endOfClause(from + 1, to));
        List<Item> items = items(distinct ? from + 2 : from + 1, itemsEnd);
        List<TableUse> tables = new ArrayList<>();
        List<Equality> equalities = new ArrayList<>();
        int tablesEnd = fromClause < to ? endOfClause(fromClause + 1, to) : to;
        if (fromClause < to) {
            tables(fromClause + 1, tablesEnd, tables, equalities);
        }
        int where = clause("WHERE", from + 1, to);
        if (where < to) {
            equalities(where + 1, endOfClause(where + 1, to), equalities);
        }
        int group = clause("GROUP", from + 1, to);
        boolean hasGroups = group < to;
        int limit = clause("LIMIT", from + 1, to);
        Block block = new Block(
                tables,
                items,
                equalities,
                hasGroups ? columns(group + 2, endOfClause(group + 2, to)) : null,
                hasGroups,
                !hasGroups && aggregates(from + 1, itemsEnd),
                distinct,
                limit < to && limit + 1 < to && text(limit + 1).equals("1") && (limit + 2 == to || !is(limit + 2, ",")),
                parent);
        blocks.add(place, block);
        nested(from + 1, to, block);
        compare(from + 1, to, block, null);
    }

    /** The index of a clause's word in a block, outside parentheses; {@code to} when it is not there. */
    private int clause(String word, int from, int to) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN) {
                i = closes[i];
            } else if (is(i, word) && !after(i, ".")) {
                return i;
            }
        }
        return to;
    }

    private int endOfClause(int from, int to) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN) {
                i = closes[i];
            } else if (kind(i) == Kind.WORD && CLAUSES.contains(word(i)) && !after(i, ".")) {
                return i;
            }
        }
        return to;
    }

    private boolean after(int index, String symbol) {
        return index > 0 && is(index - 1, symbol);
    }

    private List<Item> items(int from, int to) {
        List<Item> items = new ArrayList<>();
        int begin = from;
        for (int i = from; i <= to; i++) {
            if (i == to || is(i, ",")) {
                if (begin < i) {
                    items.add(item(begin, i));
                }
                begin = i + 1;
            } else if (kind(i) == Kind.OPEN) {
                i = closes[i];
            }
        }
        return items;
    }

    private Item item(int from, int to) {
        int offset = tokens.get(from).start();
        if (is(to - 1, "*") && (to - from == 1 || is(to - 2, "."))) {
            return new Item(null, null, true, offset);
        }
        boolean named = to - from >= 3 && is(to - 2, "AS");
        int end = named ? to - 2 : to;
        ColumnRef column = column(from, end);
        if (named) {
            return new Item(name(to - 1), column, false, offset);
        }
        // a name right behind a column, without AS
        if (column == null && isName(to - 1) && to - 1 > from && !is(to - 2, ".")) {
            column = column(from, to - 1);
            return new Item(column == null ? null : name(to - 1), column, false, offset);
        }
        return new Item(column == null ? null : column.column(), column, false, offset);
    }

    /** {@code column}, {@code alias.column}, and nothing else between two tokens. */
    private @Nullable ColumnRef column(int from, int to) {
        if (to - from == 1 && isName(from) && !isLiteralWord(from)) {
            return new ColumnRef(null, name(from));
        }
        if (to - from == 3 && isName(from) && is(from + 1, ".") && isName(from + 2)) {
            return new ColumnRef(name(from), name(from + 2));
        }
        return null;
    }

    private boolean isLiteralWord(int index) {
        return is(index, "NULL") || is(index, "TRUE") || is(index, "FALSE") || is(index, "DEFAULT");
    }

    /** Reads FROM: tables and queries with their names, and what their joins compare. */
    private void tables(int from, int to, List<TableUse> tables, List<Equality> equalities) {
        int i = from;
        while (i < to) {
            if (kind(i) == Kind.OPEN) {
                int close = closes[i];
                if (i + 1 < close
                        && (is(i + 1, "SELECT")
                                || is(i + 1, "WITH")
                                || is(i + 1, "VALUES")
                                || kind(i + 1) == Kind.OPEN)) {
                    i = close + 1;
                    if (i < to && is(i, "AS")) {
                        i++;
                    }
                    if (i < to && isName(i)) {
                        tables.add(new TableUse(name(i), null));
                        i++;
                    }
                } else {
                    tables(i + 1, close, tables, equalities);
                    i = close + 1;
                }
            } else if (is(i, "ON")) {
                int end = endOfCondition(i + 1, to);
                equalities(i + 1, end, equalities);
                i = end;
            } else if (is(i, "USING") && i + 1 < to && kind(i + 1) == Kind.OPEN) {
                using(i + 1, tables, equalities);
                i = closes[i + 1] + 1;
            } else if (kind(i) == Kind.WORD && JOINS.contains(word(i)) || is(i, ",")) {
                i++;
            } else if (isName(i)) {
                i = table(i, to, tables);
            } else {
                i++;
            }
        }
    }

    private int endOfCondition(int from, int to) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN) {
                i = closes[i];
            } else if (is(i, ",")
                    || kind(i) == Kind.WORD
                            && JOINS.contains(word(i))
                            && !is(i, "ON")
                            && !is(i, "USING")
                            && !(i + 1 < to && kind(i + 1) == Kind.OPEN)) {
                return i;
            }
        }
        return to;
    }

    private int table(int at, int to, List<TableUse> tables) {
        int i = at;
        String name = name(i);
        boolean elsewhere = false;
        while (i + 2 < to && is(i + 1, ".") && isName(i + 2)) {
            i += 2;
            name = name(i);
            elsewhere = true;
        }
        i++;
        if (i < to && kind(i) == Kind.OPEN) {
            // a table function
            i = closes[i] + 1;
            elsewhere = true;
        }
        String alias = name;
        if (i < to && is(i, "AS")) {
            i++;
        }
        if (i < to && isName(i) && !JOINS.contains(word(i)) && !AFTER_TABLE.contains(word(i))) {
            alias = name(i);
            i++;
        }
        boolean known = !elsewhere && !defined.contains(name.toLowerCase(Locale.ROOT));
        tables.add(new TableUse(alias, known ? name : null));
        // index hints and partitions stand between a table and its join
        while (i < to && kind(i) == Kind.WORD && AFTER_TABLE.contains(word(i))) {
            while (i < to && kind(i) != Kind.OPEN) {
                i++;
            }
            i = i < to ? closes[i] + 1 : to;
        }
        return i;
    }

    private void using(int open, List<TableUse> tables, List<Equality> equalities) {
        if (tables.size() < 2) {
            return;
        }
        String left = tables.get(tables.size() - 2).alias();
        String right = tables.getLast().alias();
        for (int i = open + 1; i < closes[open]; i++) {
            if (isName(i)) {
                equalities.add(new Equality(new ColumnRef(left, name(i)), new ColumnRef(right, name(i))));
            }
        }
    }

    /** The plain equalities among conditions that must all hold; an OR beside them makes all of them unsure. */
    private void equalities(int from, int to, List<Equality> equalities) {
        List<Equality> found = new ArrayList<>();
        int begin = from;
        boolean between = false;
        for (int i = from; i <= to; i++) {
            if (i == to || is(i, "AND") && !between) {
                equality(begin, i, found);
                begin = i + 1;
            } else if (is(i, "OR") || is(i, "XOR") || is(i, "|") && after(i, "|")) {
                return;
            } else if (is(i, "BETWEEN")) {
                between = true;
            } else if (is(i, "AND")) {
                between = false;
            } else if (kind(i) == Kind.OPEN) {
                i = closes[i];
            }
        }
        equalities.addAll(found);
    }

    private void equality(int from, int to, List<Equality> found) {
        for (int i = from; i < to; i++) {
            if (partOf[i] >= 0) {
                return;
            }
        }
        if (kind(from) == Kind.OPEN && from < to && closes[from] == to - 1) {
            equalities(from + 1, to - 1, found);
            return;
        }
        for (int i = from + 1; i < to - 1; i++) {
            if (is(i, "=") && !after(i, "<") && !after(i, ">") && !after(i, "!")) {
                ColumnRef left = column(from, i);
                ColumnRef right = column(i + 1, to);
                if (left != null && right != null) {
                    found.add(new Equality(left, right));
                } else if (left != null && isConstant(i + 1, to)) {
                    found.add(new Equality(left, null));
                } else if (right != null && isConstant(from, i)) {
                    found.add(new Equality(right, null));
                }
                return;
            }
        }
    }

    /** One bind parameter or literal, or a query in parentheses, which gives at most one value. */
    private boolean isConstant(int from, int to) {
        if (kind(from) == Kind.OPEN && closes[from] == to - 1 && is(from + 1, "SELECT")) {
            return true;
        }
        return to - from == 1 && (kind(from) == Kind.BIND || kind(from) == Kind.LITERAL || isLiteralWord(from));
    }

    /** A list of plain columns; null when anything else stands in it. */
    private @Nullable List<ColumnRef> columns(int from, int to) {
        List<ColumnRef> columns = new ArrayList<>();
        int begin = from;
        for (int i = from; i <= to; i++) {
            if (i == to || is(i, ",")) {
                ColumnRef column = begin < i ? column(begin, i) : null;
                if (column == null) {
                    return null;
                }
                columns.add(column);
                begin = i + 1;
            } else if (kind(i) == Kind.OPEN) {
                i = closes[i];
            }
        }
        return columns;
    }

    private boolean aggregates(int from, int to) {
        for (int i = from; i < to - 1; i++) {
            if (kind(i) == Kind.OPEN && i + 1 < to && is(i + 1, "SELECT")) {
                i = closes[i];
            } else if (kind(i) == Kind.WORD && AGGREGATES.contains(word(i)) && kind(i + 1) == Kind.OPEN) {
                int behind = closes[i + 1] + 1;
                if (behind >= to || !is(behind, "OVER")) {
                    return true;
                }
            }
        }
        return false;
    }

    /** Reads the queries in parentheses inside a block. */
    private void nested(int from, int to, Block block) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN && i + 1 < closes[i] && (is(i + 1, "SELECT") || is(i + 1, "WITH"))) {
                query(i, closes[i] + 1, block);
                i = closes[i];
            }
        }
    }

    /** Finds what bind parameters are compared with directly in a block, or in a change of one table. */
    private void compare(int from, int to, @Nullable Block block, @Nullable String table) {
        for (int i = from; i < to; i++) {
            if (kind(i) == Kind.OPEN && i + 1 < closes[i] && (is(i + 1, "SELECT") || is(i + 1, "WITH"))) {
                i = closes[i];
            } else if (kind(i) == Kind.BIND) {
                bind(i, from, to, block, table);
            }
        }
    }

    private void bind(int at, int from, int to, @Nullable Block block, @Nullable String table) {
        String bind = text(at).substring(1);
        int before = at - 1;
        if (before >= from && (is(before, "LIMIT") || is(before, "OFFSET"))) {
            uses.add(new BindUse.Limit(bind));
            return;
        }
        ColumnRef column = columnBefore(at, from);
        if (column == null) {
            column = columnAfter(at, to);
        }
        if (column != null) {
            uses.add(new BindUse.Column(bind, column, block, table));
        }
    }

    private @Nullable ColumnRef columnBefore(int at, int from) {
        int i = at - 1;
        if (i > from && is(i, "AND") && i - 2 > from && is(i - 2, "BETWEEN")) {
            i -= 2;
        } else if (i > from && kind(i) == Kind.OPEN && is(i - 1, "IN")) {
            i--;
        }
        if (i <= from || !(COMPARISONS.contains(text(i)) || is(i, "LIKE") || is(i, "BETWEEN") || is(i, "IN"))) {
            return null;
        }
        while (i > from && COMPARISONS.contains(text(i))) {
            i--;
        }
        if (is(i, "LIKE") || is(i, "BETWEEN") || is(i, "IN")) {
            i--;
        }
        if (i >= from && is(i, "NOT")) {
            i--;
        }
        if (i < from || !isName(i)) {
            return null;
        }
        boolean qualified = i - 2 >= from && is(i - 1, ".") && isName(i - 2);
        return qualified ? column(i - 2, i + 1) : column(i, i + 1);
    }

    private @Nullable ColumnRef columnAfter(int at, int to) {
        int i = at + 1;
        if (i >= to || !COMPARISONS.contains(text(i))) {
            return null;
        }
        while (i < to && COMPARISONS.contains(text(i))) {
            i++;
        }
        if (i + 2 < to && isName(i) && is(i + 1, ".")) {
            return column(i, i + 3);
        }
        boolean call = i + 1 < to && kind(i + 1) == Kind.OPEN;
        return i < to && !call ? column(i, i + 1) : null;
    }

    /** {@code insert into t (a, b) values (:a, :b), ...} and {@code insert into t set a = :a}. */
    private void insert() {
        int into = 1;
        while (into < tokens.size() && !is(into, "INTO") && into < 4) {
            into++;
        }
        int at = into < tokens.size() && is(into, "INTO") ? into + 1 : 1;
        if (at >= tokens.size() || !isName(at)) {
            return;
        }
        String table = name(at);
        int i = at + 1;
        List<ColumnRef> columns = List.of();
        if (i < tokens.size() && kind(i) == Kind.OPEN) {
            List<ColumnRef> named = columns(i + 1, closes[i]);
            columns = named == null ? List.of() : named;
            i = closes[i] + 1;
        }
        if (i < tokens.size() && (is(i, "VALUES") || is(i, "VALUE"))) {
            for (i++; i < tokens.size(); i++) {
                if (kind(i) == Kind.OPEN) {
                    values(i, table, columns);
                    i = closes[i];
                }
            }
        } else if (i < tokens.size() && (is(i, "SELECT") || is(i, "WITH") || kind(i) == Kind.OPEN)) {
            query(i, tokens.size(), null);
        } else {
            compare(i, tokens.size(), null, table);
        }
    }

    private void values(int open, String table, List<ColumnRef> columns) {
        int position = 0;
        for (int i = open + 1; i < closes[open]; i++) {
            if (is(i, ",")) {
                position++;
            } else if (kind(i) == Kind.OPEN) {
                i = closes[i];
            } else if (kind(i) == Kind.BIND
                    && position < columns.size()
                    && (i == open + 1 || is(i - 1, ","))
                    && (i + 1 == closes[open] || is(i + 1, ","))) {
                uses.add(new BindUse.Column(text(i).substring(1), columns.get(position), null, table));
            }
        }
    }

    private void change() {
        int at = is(0, "DELETE") ? clause("FROM", 0, tokens.size()) + 1 : 1;
        if (at < tokens.size() && isName(at)) {
            compare(at, tokens.size(), null, name(at));
        }
    }

    /** {@code call routine(:a, 1, :b)} and {@code routine(:a)} anywhere. */
    private void arguments() {
        for (int i = 1; i < tokens.size(); i++) {
            if (kind(i) == Kind.OPEN && isName(i - 1) && !BEFORE_PARENTHESIS.contains(word(i - 1))) {
                int position = 0;
                for (int j = i + 1; j < closes[i]; j++) {
                    if (is(j, ",")) {
                        position++;
                    } else if (kind(j) == Kind.OPEN) {
                        j = closes[j];
                    } else if (kind(j) == Kind.BIND
                            && (j == i + 1 || is(j - 1, ","))
                            && (j + 1 == closes[i] || is(j + 1, ","))) {
                        uses.add(new BindUse.Argument(text(j).substring(1), name(i - 1), position));
                    }
                }
            }
        }
    }

    private Kind kind(int index) {
        return tokens.get(index).kind();
    }

    private String text(int index) {
        Token token = tokens.get(index);
        return text.substring(token.start(), token.end());
    }

    private String word(int index) {
        return text(index).toUpperCase(Locale.ROOT);
    }

    private boolean is(int index, String word) {
        Token token = tokens.get(index);
        return token.end() - token.start() == word.length()
                && token.kind() != Kind.QUOTED_NAME
                && text.regionMatches(true, token.start(), word, 0, word.length());
    }

    private boolean isName(int index) {
        return kind(index) == Kind.WORD || kind(index) == Kind.QUOTED_NAME;
    }

    private String name(int index) {
        String raw = text(index);
        return kind(index) == Kind.QUOTED_NAME
                ? raw.substring(1, raw.length() - 1).replace("``", "`")
                : raw;
    }
}
