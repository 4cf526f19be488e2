package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.ToIntFunction;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sql.Token.Kind;

/** Writes a statement as the database gets it: the parts that apply, a question mark for each value, no comments. Thread-safe. */
public final class Renderer {

    private final Statement statement;
    private final TokenView view;

    public Renderer(Statement statement) {
        this.statement = statement;
        this.view = statement.view();
    }

    /** The statement with the conditional parts that apply, and one question mark for each bind parameter. */
    public Rendered render(Predicate<String> given) {
        return render(given, name -> -1);
    }

    /**
     * The same with lists. An UPDATE of which no assignment applies sets a column to itself, so that it still tells whether its row is
     * there.
     *
     * @param items how many question marks the list of that name takes inside {@code in (...)}; -1 for what is no list
     */
    public Rendered render(Predicate<String> given, ToIntFunction<String> items) {
        return render(new Writing(statement.staying(given), items, name -> null));
    }

    /**
     * The same with further conditions behind the statement's own.
     *
     * @param conditions only for a statement that {@link Statement#takesConditions}; null for none
     */
    public Rendered render(Predicate<String> given, ToIntFunction<String> items, @Nullable Rendered conditions) {
        return conditions == null ? render(given, items) : conditioned(given, items, conditions);
    }

    private Rendered conditioned(Predicate<String> given, ToIntFunction<String> items, Rendered conditions) {
        boolean[] staying = statement.staying(given);
        Writing writing = new Writing(staying, items, name -> null);
        int where = view.clause(Word.WHERE, 0, view.size());
        if (where < view.size() && staying[where]) {
            int end = view.endOfClause(where + 1, view.size());
            writing.tokens(0, where + 1);
            writing.sql.append(" (");
            writing.tokens(where + 1, end);
            writing.sql.append(") and ");
            writing.add(conditions);
            writing.tokens(end, view.size());
        } else {
            int end = view.endOfClause(view.clause(Word.FROM, 0, view.size()) + 1, view.size());
            writing.tokens(0, end);
            writing.sql.append(" where ");
            writing.add(conditions);
            writing.tokens(end, view.size());
        }
        return writing.rendered();
    }

    /**
     * The statement with every part, and a value of its kind in the place of each bind parameter: a database tells the types of its
     * columns only when it knows those of the values.
     *
     * @param kinds of bind parameters by name; null for one that is not known, which keeps its question mark
     */
    public String sample(Function<String, @Nullable ValueKind> kinds) {
        return render(new Writing(statement.staying(name -> true), name -> -1, kinds))
                .sql();
    }

    private Rendered render(Writing writing) {
        int set = statement.kind() == StatementKind.UPDATE ? writing.emptySet() : -1;
        if (set >= 0) {
            writing.tokens(0, set + 1);
            writing.sql.append(' ').append(unchanged(set)).append(' ');
            writing.tokens(set + 1, view.size());
        } else {
            writing.tokens(0, view.size());
        }
        return writing.rendered();
    }

    /**
     * A query for the rows that this UPDATE or DELETE of a single table changes.
     *
     * @param select what stands between SELECT and FROM
     */
    public Rendered rows(ChangeTarget target, String select, Predicate<String> given, ToIntFunction<String> items) {
        Writing writing = new Writing(statement.staying(given), items, name -> null);
        writing.sql.append("select ").append(select).append(" from ");
        writing.tokens(target.from(), target.to());
        writing.sql.append(' ');
        writing.tokens(target.rest(), target.end());
        return writing.rendered();
    }

    /**
     * A query with the columns that RETURNING hands back; databases do not describe those of a change.
     *
     * @param kinds as in {@link #sample}
     */
    public Optional<String> returned(Function<String, @Nullable ValueKind> kinds) {
        int at = view.clause(Word.RETURNING, 0, view.size());
        return at == view.size() ? Optional.empty() : statement.target().map(target -> returned(at, target, kinds));
    }

    private String returned(int at, ChangeTarget target, Function<String, @Nullable ValueKind> kinds) {
        boolean[] all = new boolean[view.size()];
        Arrays.fill(all, true);
        Writing writing = new Writing(all, name -> -1, kinds);
        writing.sql.append("select ");
        writing.tokens(at + 1, view.size());
        writing.sql.append(" from ").append(statement.dialect().quoted(target.table()));
        return writing.sql.toString();
    }

    /** {@code note = note}, of the first column behind SET. */
    private String unchanged(int set) {
        int equals = set + 1;
        while (equals < view.size() && !view.is(equals, '=')) {
            equals++;
        }
        String column = view.text(set + 1, equals - 1);
        return column + " = " + column;
    }

    /** One writing of the statement. */
    private final class Writing {
        private final StringBuilder sql =
                new StringBuilder(statement.source().text().length());
        private final List<Rendered.Slot> slots = new ArrayList<>();
        private final boolean[] staying;
        private final ToIntFunction<String> items;
        private final Function<String, @Nullable ValueKind> kinds;

        Writing(boolean[] staying, ToIntFunction<String> items, Function<String, @Nullable ValueKind> kinds) {
            this.staying = staying;
            this.items = items;
            this.kinds = kinds;
        }

        /** The SET of an UPDATE behind which nothing is left; -1 when something is. */
        int emptySet() {
            for (int i = 0; i < staying.length; i++) {
                if (view.depth(i) == 0 && view.is(i, Word.SET)) {
                    int next = i + 1;
                    while (next < staying.length && !staying[next]) {
                        next++;
                    }
                    boolean empty = next == staying.length
                            || view.is(next, Word.WHERE)
                            || view.is(next, Word.ORDER)
                            || view.is(next, Word.LIMIT);
                    return empty && next > i + 1 ? i : -1;
                }
            }
            return -1;
        }

        void tokens(int from, int to) {
            int end = -1;
            for (int i = from; i < to; i++) {
                if (!staying[i]) {
                    continue;
                }
                if (end >= 0 && view.offset(i) > end) {
                    sql.append(' ');
                }
                end = view.end(i);
                if (view.kind(i) == Kind.BIND) {
                    slots(view.bind(i), view.isListBind(i) ? items.applyAsInt(view.bind(i)) : -1);
                } else {
                    view.appendTo(sql, i);
                }
            }
        }

        /** Something with slots of its own. */
        void add(Rendered part) {
            sql.append(part.sql()).append(' ');
            slots.addAll(part.slots());
        }

        private void slots(String name, int size) {
            ValueKind kind = kinds.apply(name);
            if (kind != null) {
                sql.append(statement.dialect().literal(kind));
            } else if (size < 0) {
                sql.append('?');
                slots.add(new Rendered.Slot(name, -1));
            } else if (size == 0) {
                sql.append(statement.dialect().emptyList());
            }
            for (int item = 0; item < size; item++) {
                sql.append(item == 0 ? "?" : ", ?");
                slots.add(new Rendered.Slot(name, item));
            }
        }

        Rendered rendered() {
            return new Rendered(sql.toString().strip(), slots);
        }
    }
}
