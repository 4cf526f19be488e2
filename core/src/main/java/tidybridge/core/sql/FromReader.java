package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Outline.Equality;
import tidybridge.core.sql.Outline.Subquery;
import tidybridge.core.sql.Outline.TableUse;
import tidybridge.core.sql.Token.Kind;

/** Reads FROM and WHERE of a block: the tables with their names, and what must be equal. */
final class FromReader {

    private static final Set<Word> JOINS = EnumSet.of(
            Word.JOIN,
            Word.STRAIGHT_JOIN,
            Word.LEFT,
            Word.RIGHT,
            Word.INNER,
            Word.CROSS,
            Word.NATURAL,
            Word.OUTER,
            Word.ON,
            Word.USING);
    private static final Set<Word> AFTER_TABLE = EnumSet.of(
            Word.PARTITION, Word.USE, Word.FORCE, Word.IGNORE, Word.FOR, Word.SET, Word.WHERE, Word.TABLESAMPLE);

    private final TokenView view;
    private final int[] partOf;
    private final Set<String> defined;
    private final List<TableUse> tables = new ArrayList<>();
    private final List<Equality> equalities = new ArrayList<>();

    /**
     * Reads one block.
     *
     * @param partOf for each token the conditional part it stands in, -1 for none
     * @param defined what WITH defines, in lower case
     */
    FromReader(TokenView view, int[] partOf, Set<String> defined) {
        this.view = view;
        this.partOf = partOf;
        this.defined = defined;
    }

    List<TableUse> tables() {
        return tables;
    }

    List<Equality> equalities() {
        return equalities;
    }

    /** Reads FROM: tables and queries with their names, and what their joins compare. */
    void tables(int from, int to) {
        Join join = Join.INNER;
        int i = from;
        while (i < to) {
            if (view.kind(i) == Kind.OPEN) {
                int close = view.close(i);
                if (i + 1 < close
                        && (view.is(i + 1, Word.SELECT)
                                || view.is(i + 1, Word.WITH)
                                || view.is(i + 1, Word.VALUES)
                                || view.kind(i + 1) == Kind.OPEN)) {
                    i = close + 1;
                    if (i < to && view.is(i, Word.AS)) {
                        i++;
                    }
                    if (i < to && view.isName(i)) {
                        tables.add(new TableUse(view.name(i), null, null));
                        i++;
                    }
                } else {
                    tables(i + 1, close);
                    i = close + 1;
                }
            } else if (view.is(i, Word.ON)) {
                int end = endOfCondition(i + 1, to);
                joined(i + 1, end, join);
                i = end;
            } else if (view.is(i, Word.USING) && i + 1 < to && view.kind(i + 1) == Kind.OPEN) {
                using(i + 1, join);
                i = view.close(i + 1) + 1;
            } else if (view.is(i, Word.JOIN)) {
                join = join(i);
                i++;
            } else if (JOINS.contains(view.word(i)) || view.is(i, ',')) {
                i++;
            } else if (view.isName(i)) {
                i = table(i, to);
            } else {
                i++;
            }
        }
    }

    /** How a table is joined. */
    private enum Join {
        INNER,
        LEFT,
        RIGHT
    }

    private Join join(int at) {
        int before = at > 0 && view.is(at - 1, Word.OUTER) ? at - 2 : at - 1;
        if (before >= 0 && view.is(before, Word.LEFT)) {
            return Join.LEFT;
        }
        return before >= 0 && view.is(before, Word.RIGHT) ? Join.RIGHT : Join.INNER;
    }

    private void joined(int from, int to, Join join) {
        List<Equality> found = new ArrayList<>();
        conditions(from, to, found);
        keep(found, join);
    }

    /** Of an outer join only what settles the joined table itself is sure; what stands the other way round is not looked at. */
    private void keep(List<Equality> found, Join join) {
        switch (join) {
            case INNER -> equalities.addAll(found);
            case LEFT -> {
                String joined = tables.isEmpty() ? "" : tables.getLast().alias();
                for (Equality equality : found) {
                    ColumnRef right = equality.right();
                    if (isOf(equality.left(), joined) && (right == null || !isOf(right, joined))) {
                        equalities.add(equality.inOuterJoin());
                    } else if (right != null && isOf(right, joined)) {
                        equalities.add(new Equality(right, equality.left(), true, null));
                    }
                }
            }
            case RIGHT -> {}
        }
    }

    private static boolean isOf(ColumnRef column, String alias) {
        return column.alias() != null && column.alias().equalsIgnoreCase(alias);
    }

    private int endOfCondition(int from, int to) {
        for (int i = from; i < to; i++) {
            if (view.kind(i) == Kind.OPEN) {
                i = view.close(i);
            } else if (view.is(i, ',')
                    || view.kind(i) == Kind.WORD
                            && JOINS.contains(view.word(i))
                            && !view.is(i, Word.ON)
                            && !view.is(i, Word.USING)
                            && !(i + 1 < to && view.kind(i + 1) == Kind.OPEN)) {
                return i;
            }
        }
        return to;
    }

    private int table(int at, int to) {
        int i = at;
        String name = view.name(i);
        String schema = null;
        while (i + 2 < to && view.is(i + 1, '.') && view.isName(i + 2)) {
            i += 2;
            schema = name;
            name = view.name(i);
        }
        i++;
        boolean computed = i < to && view.kind(i) == Kind.OPEN;
        if (computed) {
            // a table function
            i = view.close(i) + 1;
        }
        String alias = name;
        if (i < to && view.is(i, Word.AS)) {
            i++;
        }
        if (i < to && view.isName(i) && !JOINS.contains(view.word(i)) && !AFTER_TABLE.contains(view.word(i))) {
            alias = view.name(i);
            i++;
        }
        boolean known = !computed && (schema != null || !defined.contains(name.toLowerCase(Locale.ROOT)));
        tables.add(new TableUse(alias, schema, known ? name : null));
        // index hints and partitions stand between a table and its join
        while (i < to && AFTER_TABLE.contains(view.word(i))) {
            while (i < to && view.kind(i) != Kind.OPEN) {
                i++;
            }
            i = i < to ? view.close(i) + 1 : to;
        }
        return i;
    }

    private void using(int open, Join join) {
        if (tables.size() < 2) {
            return;
        }
        String before = tables.get(tables.size() - 2).alias();
        String joined = tables.getLast().alias();
        List<Equality> found = new ArrayList<>();
        for (int i = open + 1; i < view.close(open); i++) {
            if (view.isName(i)) {
                String column = view.name(i);
                found.add(new Equality(new ColumnRef(joined, column), new ColumnRef(before, column)));
            }
        }
        keep(found, join);
    }

    /** The plain equalities among conditions that must all hold; an OR beside them makes all of them unsure. */
    void equalities(int from, int to) {
        conditions(from, to, equalities);
    }

    private void conditions(int from, int to, List<Equality> into) {
        List<Equality> found = new ArrayList<>();
        int begin = from;
        boolean between = false;
        for (int i = from; i <= to; i++) {
            if (i == to || view.is(i, Word.AND) && !between) {
                equality(begin, i, found);
                begin = i + 1;
            } else if (view.is(i, Word.OR) || view.is(i, Word.XOR) || view.is(i, '|') && view.after(i, '|')) {
                return;
            } else if (view.is(i, Word.BETWEEN)) {
                between = true;
            } else if (view.is(i, Word.AND)) {
                between = false;
            } else if (view.kind(i) == Kind.OPEN) {
                i = view.close(i);
            }
        }
        into.addAll(found);
    }

    private void equality(int from, int to, List<Equality> found) {
        for (int i = from; i < to; i++) {
            if (partOf[i] >= 0) {
                return;
            }
        }
        if (from < to && view.kind(from) == Kind.OPEN && view.close(from) == to - 1) {
            conditions(from + 1, to - 1, found);
            return;
        }
        for (int i = from + 1; i < to - 1; i++) {
            if (view.is(i, '=') && !view.after(i, '<') && !view.after(i, '>') && !view.after(i, '!')) {
                ColumnRef left = view.column(from, i);
                ColumnRef right = view.column(i + 1, to);
                if (left != null && right != null) {
                    found.add(new Equality(left, right));
                } else if (left != null && isConstant(i + 1, to)) {
                    found.add(new Equality(left, null, false, query(i + 1, to)));
                } else if (right != null && isConstant(from, i)) {
                    found.add(new Equality(right, null, false, query(from, i)));
                }
                return;
            }
        }
    }

    private boolean isQuery(int from, int to) {
        return view.kind(from) == Kind.OPEN && view.close(from) == to - 1 && view.is(from + 1, Word.SELECT);
    }

    private @Nullable Subquery query(int from, int to) {
        if (!isQuery(from, to)) {
            return null;
        }
        List<TableUse> read = new ArrayList<>();
        List<ColumnRef> names = new ArrayList<>();
        IntStack ends = new IntStack();
        for (int i = from; i < to; i++) {
            if (view.kind(i) == Kind.OPEN) {
                ends.push(view.close(i));
            } else if (view.kind(i) == Kind.CLOSE) {
                ends.pop();
            } else if (view.is(i, Word.SELECT)) {
                int end = ends.peek();
                int clause = view.clause(Word.FROM, i + 1, end);
                if (clause < end) {
                    FromReader inside = new FromReader(view, partOf, defined);
                    inside.tables(clause + 1, view.endOfClause(clause + 1, end));
                    read.addAll(inside.tables());
                }
            } else if (isColumn(i)) {
                names.add(new ColumnRef(view.after(i, '.') ? view.name(i - 2) : null, view.name(i)));
            }
        }
        return new Subquery(read, names);
    }

    /** A name that no dot follows: the last one of {@code schema.table.column}. */
    private boolean isColumn(int index) {
        boolean name =
                view.kind(index) == Kind.QUOTED_NAME || view.kind(index) == Kind.WORD && view.is(index, Word.NAME);
        return (name || view.isName(index) && view.after(index, '.')) && !view.is(index + 1, '.');
    }

    /** One bind parameter or literal, or a query in parentheses, which gives at most one value. */
    private boolean isConstant(int from, int to) {
        return isQuery(from, to)
                || to - from == 1
                        && (view.kind(from) == Kind.BIND
                                || view.kind(from) == Kind.LITERAL
                                || view.isLiteralWord(from));
    }
}
