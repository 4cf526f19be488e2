package tidybridge.core.plan;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.definition.FilterOperator;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.plan.Filter.Comparison;
import tidybridge.core.problem.InputError;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.Rendered;

/** The conditions that callers may put on a collection; their values stand behind those of its parameters. Immutable and thread-safe. */
public final class Filters {

    /** A collection that is as its statement says. */
    public static final Filters NONE = new Filters(List.of(), 0);

    /** What escapes the signs of a pattern; not the backslash, whose meaning a session can change. */
    private static final char ESCAPE = '|';

    /** The most conditions of one request: each makes the statement longer, and a form of its own. */
    public static final int MOST_GIVEN = 20;

    /** The most values in all of its lists together. */
    public static final int MOST_VALUES = 200;

    private final List<Filter> all;
    private final int first;

    /**
     * Makes the conditions.
     *
     * @param first the index of the first one's value
     */
    public Filters(List<Filter> all, int first) {
        this.all = List.copyOf(all);
        this.first = first;
    }

    /** A column as it is named around a statement. */
    public static String around(Dialect dialect, String column) {
        return PagedSql.ALIAS + "." + dialect.quoted(column);
    }

    /** In the order of the text. */
    public List<Filter> all() {
        return all;
    }

    /** What reads their values. */
    public List<ParameterDefinition> parameters() {
        return all.stream().map(Filter::parameter).toList();
    }

    /** The indexes of their values by the names of their parameters. */
    public Map<String, Integer> indexes() {
        Map<String, Integer> indexes = new TreeMap<>();
        for (int i = 0; i < all.size(); i++) {
            indexes.put(all.get(i).parameter().name(), first + i);
        }
        return indexes;
    }

    /**
     * Which of them a request gives. Its values become what is bound: texts become patterns.
     *
     * @param values those of the request, in the order of its parameters and with these behind
     * @throws BadInput when it gives too many
     */
    public GivenFilters take(@Nullable Object[] values) throws BadInput {
        int count = 0;
        int items = 0;
        for (int i = 0; i < all.size(); i++) {
            Object value = values[first + i];
            count += value == null ? 0 : 1;
            items += value instanceof List<?> list ? list.size() : 0;
        }
        if (count == 0) {
            return GivenFilters.NONE;
        }
        refuse(count > MOST_GIVEN, "has " + count + " conditions, and " + MOST_GIVEN + " can be given");
        refuse(items > MOST_VALUES, "has " + items + " values in lists, and " + MOST_VALUES + " can be given");
        int[] codes = new int[count];
        StringBuilder label = new StringBuilder();
        int at = 0;
        for (int i = 0; i < all.size(); i++) {
            Object value = values[first + i];
            if (value != null) {
                Filter filter = all.get(i);
                label.append('\n').append(filter.parameter().name()).append('=');
                say(value, label);
                codes[at++] = GivenFilters.code(i, detail(filter, value));
                values[first + i] = compared(filter, value);
            }
        }
        return new GivenFilters(this, codes, label.toString());
    }

    private static void refuse(boolean tooMany, String clause) throws BadInput {
        if (tooMany) {
            throw new BadInput(List.of(new InputError("query", "query", "'query' " + clause + ".")));
        }
    }

    /** A value so that equal ones are said alike, and others not. */
    private static void say(Object value, StringBuilder label) {
        switch (value) {
            case byte[] bytes -> label.append(HexFormat.of().formatHex(bytes));
            case List<?> list -> {
                for (Object item : list) {
                    label.append('\n');
                    say(item, label);
                }
            }
            default -> label.append(value);
        }
    }

    /**
     * Some of them, as a source is asked about them.
     *
     * @param some their indexes
     */
    public GivenFilters sample(int... some) {
        int[] codes = new int[some.length];
        for (int i = 0; i < some.length; i++) {
            codes[i] = GivenFilters.code(some[i], all.get(some[i]).operator() == FilterOperator.IN ? 2 : 1);
        }
        return new GivenFilters(this, codes, "");
    }

    private static int detail(Filter filter, Object value) {
        return switch (value) {
            case Boolean bool -> bool ? 1 : 0;
            case List<?> list -> ListSize.ofItems(list.size());
            default -> 0;
        };
    }

    private static Object compared(Filter filter, Object value) {
        return switch (filter.operator()) {
            case STARTS -> pattern(value.toString()) + '%';
            case CONTAINS -> '%' + pattern(value.toString()) + '%';
            case EQ, NE, LT, LTE, GT, GTE -> filter.comparison() == Comparison.SINGLE ? single(value) : value;
            case IN ->
                filter.comparison() == Comparison.SINGLE && value instanceof List<?> list ? singles(list) : value;
            case NULL -> value;
        };
    }

    private static Object single(Object value) {
        return value instanceof BigDecimal number ? (Object) number.floatValue() : value;
    }

    private static List<Object> singles(List<?> values) {
        List<Object> singles = new ArrayList<>(values.size());
        for (Object value : values) {
            singles.add(single(value));
        }
        return singles;
    }

    private static String pattern(String text) {
        StringBuilder pattern = new StringBuilder(text.length() + 8);
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '%' || c == '_' || c == ESCAPE) {
                pattern.append(ESCAPE);
            }
            pattern.append(c);
        }
        return pattern.toString();
    }

    /**
     * The conditions that are given, for one of their two places.
     *
     * @param inside true for the statement's own conditions
     * @return null when none stands there
     */
    @Nullable
    Rendered conditions(int[] codes, boolean inside) {
        StringBuilder sql = new StringBuilder();
        List<Rendered.Slot> slots = new ArrayList<>();
        for (int code : codes) {
            Filter filter = all.get(GivenFilters.index(code));
            String column = filter.inside();
            if (inside == (column != null)) {
                sql.append(sql.isEmpty() ? "" : " and ");
                condition(filter, column == null ? filter.around() : column, GivenFilters.detail(code), sql, slots);
            }
        }
        return sql.isEmpty() ? null : new Rendered(sql.toString(), slots);
    }

    private static void condition(
            Filter filter, String column, int detail, StringBuilder sql, List<Rendered.Slot> slots) {
        String name = filter.parameter().name();
        if (filter.isSearch()) {
            sql.append("match(").append(column).append(") against (?)");
            slots.add(new Rendered.Slot(name, -1));
            return;
        }
        sql.append(column);
        if (filter.operator() == FilterOperator.NULL) {
            sql.append(detail == 1 ? " is null" : " is not null");
            return;
        }
        if (filter.comparison() == Comparison.FLAG) {
            boolean isTrue = (detail == 1) == (filter.operator() == FilterOperator.EQ);
            sql.append(isTrue ? " <> 0" : " = 0");
            return;
        }
        switch (filter.operator()) {
            case EQ -> sql.append(" = ?");
            case NE -> sql.append(" <> ?");
            case LT -> sql.append(" < ?");
            case LTE -> sql.append(" <= ?");
            case GT -> sql.append(" > ?");
            case GTE -> sql.append(" >= ?");
            case STARTS, CONTAINS ->
                sql.append(" like ? escape '").append(ESCAPE).append('\'');
            case IN -> {
                int marks = ListSize.marks(detail);
                for (int i = 0; i < marks; i++) {
                    sql.append(i == 0 ? " in (?" : ", ?");
                    slots.add(new Rendered.Slot(name, i));
                }
                sql.append(')');
                return;
            }
            case NULL -> {}
        }
        slots.add(new Rendered.Slot(name, -1));
    }
}
