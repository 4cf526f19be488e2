package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Outline.BindUse;
import tidybridge.core.sql.Outline.Block;
import tidybridge.core.sql.Outline.ColumnRef;
import tidybridge.core.sql.Token.Kind;

/** Finds what bind parameters meet: the column they are compared with or written to, a routine's argument, a number of rows. */
final class UseReader {

    private static final Set<String> COMPARISONS = Set.of("=", "<", ">", "!");
    private static final Set<Word> BOUNDARIES = EnumSet.of(
            Word.AND,
            Word.OR,
            Word.XOR,
            Word.NOT,
            Word.WHERE,
            Word.ON,
            Word.HAVING,
            Word.WHEN,
            Word.SELECT,
            Word.SET,
            Word.THEN,
            Word.ELSE,
            Word.CASE,
            Word.BY);
    private static final Set<Word> BEFORE_PARENTHESIS = EnumSet.of(
            Word.IN,
            Word.AND,
            Word.OR,
            Word.NOT,
            Word.WHERE,
            Word.ON,
            Word.HAVING,
            Word.FROM,
            Word.JOIN,
            Word.VALUES,
            Word.VALUE,
            Word.AS,
            Word.USING,
            Word.SELECT,
            Word.EXISTS,
            Word.ANY,
            Word.ALL,
            Word.SOME,
            Word.BETWEEN,
            Word.LIKE,
            Word.WHEN,
            Word.THEN,
            Word.ELSE,
            Word.CASE,
            Word.BY,
            Word.OVER,
            Word.KEY,
            Word.INDEX,
            Word.INTO,
            Word.SET,
            Word.UNION,
            Word.EXCEPT,
            Word.INTERSECT,
            Word.LIMIT,
            Word.RETURNING,
            Word.IF);

    private final TokenView view;
    private final boolean inserts;
    private final List<BindUse> uses = new ArrayList<>();

    UseReader(TokenView view) {
        this.view = view;
        this.inserts = view.is(0, Word.INSERT) || view.is(0, Word.REPLACE);
    }

    List<BindUse> uses() {
        return uses;
    }

    /** Finds what bind parameters are compared with directly in a block, or in a change of one table. */
    void compare(int from, int to, @Nullable Block block, @Nullable String table) {
        for (int i = from; i < to; i++) {
            if (view.kind(i) == Kind.OPEN
                    && i + 1 < view.close(i)
                    && (view.is(i + 1, Word.SELECT) || view.is(i + 1, Word.WITH))) {
                i = view.close(i);
            } else if (view.kind(i) == Kind.BIND) {
                bind(i, from, to, block, table);
            }
        }
    }

    private void bind(int at, int from, int to, @Nullable Block block, @Nullable String table) {
        String bind = view.bind(at);
        int before = at - 1;
        if (before >= from && (view.is(before, Word.LIMIT) || view.is(before, Word.OFFSET))) {
            uses.add(new BindUse.Limit(bind));
            return;
        }
        ColumnRef column = columnBefore(at, from);
        if (column == null) {
            column = columnAfter(at, from, to);
        }
        if (column != null) {
            uses.add(new BindUse.Column(bind, column, block, table, inserts && view.is(at - 1, '=')));
        }
    }

    private @Nullable ColumnRef columnBefore(int at, int from) {
        int i = at - 1;
        if (i > from && view.is(i, Word.AND) && i - 2 > from && view.is(i - 2, Word.BETWEEN)) {
            i -= 2;
        } else if (i > from && view.kind(i) == Kind.OPEN && view.is(i - 1, Word.IN)) {
            i--;
        }
        if (i <= from
                || !(COMPARISONS.contains(view.text(i))
                        || view.is(i, Word.LIKE)
                        || view.is(i, Word.BETWEEN)
                        || view.is(i, Word.IN))) {
            return null;
        }
        while (i > from && COMPARISONS.contains(view.text(i))) {
            i--;
        }
        if (view.is(i, Word.LIKE) || view.is(i, Word.BETWEEN) || view.is(i, Word.IN)) {
            i--;
        }
        if (i >= from && view.is(i, Word.NOT)) {
            i--;
        }
        if (i < from || !view.isName(i)) {
            return null;
        }
        boolean qualified = i - 2 >= from && view.is(i - 1, '.') && view.isName(i - 2);
        int start = qualified ? i - 2 : i;
        return standsAlone(start - 1, from) ? view.column(start, i + 1) : null;
    }

    /** True when no operator stands there: of {@code departs - arrives >= :nights} the bind parameter meets no column. */
    private boolean standsAlone(int before, int from) {
        return before < from
                || view.kind(before) == Kind.OPEN
                || view.is(before, ',')
                || BOUNDARIES.contains(view.word(before));
    }

    private @Nullable ColumnRef columnAfter(int at, int from, int to) {
        int i = at + 1;
        if (i >= to || !COMPARISONS.contains(view.text(i)) || !standsAlone(at - 1, from)) {
            return null;
        }
        while (i < to && COMPARISONS.contains(view.text(i))) {
            i++;
        }
        if (i >= to) {
            return null;
        }
        int end = i + 2 < to && view.isName(i) && view.is(i + 1, '.') ? i + 3 : i + 1;
        boolean alone = end >= to || view.kind(end) == Kind.CLOSE || view.is(end, ',') || view.kind(end) == Kind.WORD;
        return alone ? view.column(i, end) : null;
    }

    void values(int open, String table, List<ColumnRef> columns) {
        int position = 0;
        for (int i = open + 1; i < view.close(open); i++) {
            if (view.is(i, ',')) {
                position++;
            } else if (view.kind(i) == Kind.OPEN) {
                i = view.close(i);
            } else if (view.kind(i) == Kind.BIND
                    && position < columns.size()
                    && (i == open + 1 || view.is(i - 1, ','))
                    && (i + 1 == view.close(open) || view.is(i + 1, ','))) {
                uses.add(new BindUse.Column(view.bind(i), columns.get(position), null, table, true));
            }
        }
    }

    /** Of an UPDATE or DELETE: of one table, or of several that are joined. */
    void change(int[] partOf, Set<String> defined) {
        boolean delete = view.is(0, Word.DELETE);
        int at = delete ? view.clause(Word.FROM, 0, view.size()) + 1 : 1;
        int end = delete ? view.endOfClause(at, view.size()) : view.clause(Word.SET, at, view.size());
        FromReader from = new FromReader(view, partOf, defined);
        from.tables(at, Math.min(end, view.size()));
        if (from.tables().size() > 1) {
            Block joined =
                    new Block(from.tables(), List.of(), from.equalities(), null, false, false, false, false, null);
            compare(at, view.size(), joined, null);
            return;
        }
        if (at < view.size() && view.isName(at)) {
            compare(at, view.size(), null, view.name(at));
        }
    }

    /** {@code call routine(:a, 1, :b)} and {@code routine(:a)} anywhere. */
    void arguments() {
        for (int i = 1; i < view.size(); i++) {
            if (view.kind(i) == Kind.OPEN && view.isName(i - 1) && !BEFORE_PARENTHESIS.contains(view.word(i - 1))) {
                int position = 0;
                for (int j = i + 1; j < view.close(i); j++) {
                    if (view.is(j, ',')) {
                        position++;
                    } else if (view.kind(j) == Kind.OPEN) {
                        j = view.close(j);
                    } else if (view.kind(j) == Kind.BIND
                            && (j == i + 1 || view.is(j - 1, ','))
                            && (j + 1 == view.close(i) || view.is(j + 1, ','))) {
                        uses.add(new BindUse.Argument(view.bind(j), view.name(i - 1), position));
                    }
                }
            }
        }
    }
}
