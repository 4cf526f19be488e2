package tidybridge.core.sql;

import java.util.ArrayList;
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
    private static final Set<String> BOUNDARIES = Set.of(
            "AND", "OR", "XOR", "NOT", "WHERE", "ON", "HAVING", "WHEN", "SELECT", "SET", "THEN", "ELSE", "CASE", "BY");
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

    private final TokenView view;
    private final List<BindUse> uses = new ArrayList<>();

    UseReader(TokenView view) {
        this.view = view;
    }

    List<BindUse> uses() {
        return uses;
    }

    /** Finds what bind parameters are compared with directly in a block, or in a change of one table. */
    void compare(int from, int to, @Nullable Block block, @Nullable String table) {
        for (int i = from; i < to; i++) {
            if (view.kind(i) == Kind.OPEN
                    && i + 1 < view.close(i)
                    && (view.is(i + 1, "SELECT") || view.is(i + 1, "WITH"))) {
                i = view.close(i);
            } else if (view.kind(i) == Kind.BIND) {
                bind(i, from, to, block, table);
            }
        }
    }

    private void bind(int at, int from, int to, @Nullable Block block, @Nullable String table) {
        String bind = view.text(at).substring(1);
        int before = at - 1;
        if (before >= from && (view.is(before, "LIMIT") || view.is(before, "OFFSET"))) {
            uses.add(new BindUse.Limit(bind));
            return;
        }
        ColumnRef column = columnBefore(at, from);
        if (column == null) {
            column = columnAfter(at, from, to);
        }
        if (column != null) {
            uses.add(new BindUse.Column(bind, column, block, table));
        }
    }

    private @Nullable ColumnRef columnBefore(int at, int from) {
        int i = at - 1;
        if (i > from && view.is(i, "AND") && i - 2 > from && view.is(i - 2, "BETWEEN")) {
            i -= 2;
        } else if (i > from && view.kind(i) == Kind.OPEN && view.is(i - 1, "IN")) {
            i--;
        }
        if (i <= from
                || !(COMPARISONS.contains(view.text(i))
                        || view.is(i, "LIKE")
                        || view.is(i, "BETWEEN")
                        || view.is(i, "IN"))) {
            return null;
        }
        while (i > from && COMPARISONS.contains(view.text(i))) {
            i--;
        }
        if (view.is(i, "LIKE") || view.is(i, "BETWEEN") || view.is(i, "IN")) {
            i--;
        }
        if (i >= from && view.is(i, "NOT")) {
            i--;
        }
        if (i < from || !view.isName(i)) {
            return null;
        }
        boolean qualified = i - 2 >= from && view.is(i - 1, ".") && view.isName(i - 2);
        int start = qualified ? i - 2 : i;
        return standsAlone(start - 1, from) ? view.column(start, i + 1) : null;
    }

    /** True when no operator stands there: of {@code departs - arrives >= :nights} the bind parameter meets no column. */
    private boolean standsAlone(int before, int from) {
        return before < from
                || view.kind(before) == Kind.OPEN
                || view.is(before, ",")
                || view.kind(before) == Kind.WORD && BOUNDARIES.contains(view.word(before));
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
        int end = i + 2 < to && view.isName(i) && view.is(i + 1, ".") ? i + 3 : i + 1;
        boolean alone = end >= to || view.kind(end) == Kind.CLOSE || view.is(end, ",") || view.kind(end) == Kind.WORD;
        return alone ? view.column(i, end) : null;
    }

    void values(int open, String table, List<ColumnRef> columns) {
        int position = 0;
        for (int i = open + 1; i < view.close(open); i++) {
            if (view.is(i, ",")) {
                position++;
            } else if (view.kind(i) == Kind.OPEN) {
                i = view.close(i);
            } else if (view.kind(i) == Kind.BIND
                    && position < columns.size()
                    && (i == open + 1 || view.is(i - 1, ","))
                    && (i + 1 == view.close(open) || view.is(i + 1, ","))) {
                uses.add(new BindUse.Column(view.text(i).substring(1), columns.get(position), null, table));
            }
        }
    }

    void change() {
        int at = view.is(0, "DELETE") ? view.clause("FROM", 0, view.size()) + 1 : 1;
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
                    if (view.is(j, ",")) {
                        position++;
                    } else if (view.kind(j) == Kind.OPEN) {
                        j = view.close(j);
                    } else if (view.kind(j) == Kind.BIND
                            && (j == i + 1 || view.is(j - 1, ","))
                            && (j + 1 == view.close(i) || view.is(j + 1, ","))) {
                        uses.add(new BindUse.Argument(view.text(j).substring(1), view.name(i - 1), position));
                    }
                }
            }
        }
    }
}
