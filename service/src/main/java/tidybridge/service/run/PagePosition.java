package tidybridge.service.run;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.HexFormat;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.PageStart;
import tidybridge.core.bind.ValueReader;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.Direction;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.PageRequest;
import tidybridge.core.plan.Start;
import tidybridge.core.problem.InputError;
import tidybridge.engine.Rows;

/**
 * Where a page begins, and which way it is read.
 *
 * @param nulls a bit for each key of the order whose value is null, from the lowest
 * @param depth how many keys of the order are compared where a caller gives a key; 0 otherwise
 * @param values the order values to begin at, as their columns' own types; null at the beginning
 */
record PagePosition(
        Start start,
        long nulls,
        int depth,
        Direction direction,
        @Nullable Object @Nullable [] values) {

    /** Marks, behind the order values, that the page before held one value of the first key only. */
    private static final String TIES = "ties";

    private static final String CHANGE = "change";

    /**
     * Reads what a caller asks for.
     *
     * @param scope the collection, its order, and the conditions on it
     */
    static PagePosition read(
            PageStart asked, Continuation continuation, String scope, CollectionPlan plan, PageOrder order)
            throws BadInput {
        return switch (asked) {
            case PageStart.Beginning beginning -> new PagePosition(Start.BEGINNING, 0, 0, Direction.FORWARD, null);
            case PageStart.Last last -> new PagePosition(Start.BEGINNING, 0, 0, Direction.BACKWARD, null);
            case PageStart.After(String position) ->
                at(continuation, scope, order, position, Binder.AFTER, Direction.FORWARD);
            case PageStart.Before(String position) ->
                at(continuation, scope, order, position, Binder.BEFORE, Direction.BACKWARD);
            case PageStart.From(List<String> key) -> from(key, plan, order);
        };
    }

    /** Reads what {@link #write} wrote. */
    private static PagePosition at(
            Continuation continuation,
            String scope,
            PageOrder order,
            String position,
            String parameter,
            Direction direction)
            throws BadInput {
        List<PageOrder.Key> keys = order.keys();
        @Nullable String[] texts = continuation.read(scope, position, keys.size() + 1);
        if (texts == null) {
            throw refused(
                    parameter,
                    "is no position in this collection with these conditions; take it from page." + parameter
                            + " as it is, or leave it out to begin again.");
        }
        return at(keys, texts, TIES.equals(texts[keys.size()]), direction);
    }

    private static PagePosition at(
            List<PageOrder.Key> keys, @Nullable String[] texts, boolean ties, Direction direction) {
        @Nullable Object[] values = new @Nullable Object[keys.size()];
        long nulls = 0;
        for (int i = 0; i < values.length; i++) {
            String text = texts[i];
            values[i] = text == null ? null : typed(keys.get(i), text);
            nulls |= text == null ? 1L << i : 0;
        }
        return new PagePosition(ties ? Start.AFTER_TIES : Start.AFTER_CHANGE, nulls, 0, direction, values);
    }

    /**
     * The position behind a row.
     *
     * @param other the first order value of the row at the other end of what was read
     * @param last the order values of the row
     */
    static PagePosition behind(PageOrder order, @Nullable String other, @Nullable String[] last) {
        return at(order.keys(), last, Objects.equals(other, last[0]), Direction.FORWARD);
    }

    private static PagePosition from(List<String> key, CollectionPlan plan, PageOrder order) throws BadInput {
        List<PageOrder.Key> keys = order.keys();
        if (key.size() > keys.size()) {
            throw refused(
                    Binder.FROM,
                    "has " + key.size() + " values, and the rows are ordered by " + keys.size() + " fields.");
        }
        @Nullable Object[] values = new @Nullable Object[keys.size()];
        for (int i = 0; i < key.size(); i++) {
            String name = plan.shown(keys.get(i));
            ParameterType type = name == null ? null : keys.get(i).readAs();
            if (type == null) {
                throw refused(
                        Binder.FROM,
                        "can give " + i + " values here: pages cannot be begun by field " + (i + 1) + " of the order.");
            }
            try {
                values[i] = new ValueReader(type, Constraints.NONE).read(key.get(i));
            } catch (ValueReader.Unfit e) {
                throw refused(Binder.FROM, "has a value of '" + name + "' that " + e.clause() + ".");
            }
        }
        return new PagePosition(Start.FROM, 0, key.size(), Direction.FORWARD, values);
    }

    private static BadInput refused(String parameter, String clause) {
        return new BadInput(List.of(new InputError(parameter, "query", "'" + parameter + "' " + clause)));
    }

    /** The page that begins here. */
    PageRequest in(PageOrder order) {
        PageRequest request = order.from(start, nulls);
        PageRequest deep = depth == 0 ? request : request.deep(depth);
        return isBackward() ? deep.backward() : deep;
    }

    boolean isBackward() {
        return direction == Direction.BACKWARD;
    }

    /** True when rows may be on the other side of where it begins. */
    boolean isInside() {
        return start != Start.BEGINNING;
    }

    /**
     * Writes the position at an end of a page.
     *
     * @param scope as it is read with
     * @param other the first order value of the row at the page's other end
     * @param values the order values of the row at this end
     */
    static String write(Continuation continuation, String scope, @Nullable String other, @Nullable String[] values) {
        @Nullable String[] texts = new @Nullable String[values.length + 1];
        System.arraycopy(values, 0, texts, 0, values.length);
        texts[values.length] = Objects.equals(other, values[0]) ? TIES : CHANGE;
        return continuation.write(scope, texts);
    }

    /** An order value of the current row as text that loses nothing; null for null. */
    static @Nullable String value(Rows rows, PageOrder.Key key) {
        if (key.ofMembers()) {
            return rows.text(key.place());
        }
        return switch (key.type()) {
            case INTEGER, BOOLEAN -> {
                long number = rows.integer(key.field());
                yield rows.wasNull() ? null : String.valueOf(number);
            }
            case FLOAT -> {
                double number = rows.real(key.field());
                yield rows.wasNull() ? null : String.valueOf(number);
            }
            case BINARY, BITS, GEOMETRY -> {
                byte[] bytes = rows.bytes(key.field());
                yield bytes == null ? null : HexFormat.of().formatHex(bytes);
            }
            case DECIMAL, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, JSON -> rows.text(key.field());
        };
    }

    /** All order values of the current row. */
    static @Nullable String[] values(Rows rows, PageOrder order) {
        List<PageOrder.Key> keys = order.keys();
        @Nullable String[] values = new @Nullable String[keys.size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = value(rows, keys.get(i));
        }
        return values;
    }

    /** An order value as its column's own type; a text would be converted anew for every row it is compared with. */
    private static Object typed(PageOrder.Key key, String text) {
        if (key.ofMembers()) {
            return whole(new BigInteger(text));
        }
        return switch (key.type()) {
            case INTEGER, BOOLEAN -> Long.valueOf(text);
            case DECIMAL -> new BigDecimal(text);
            case FLOAT -> Double.valueOf(text);
            case DATE, LOCAL_DATE_TIME, MOMENT -> dated(key, text);
            case BINARY, GEOMETRY -> HexFormat.of().parseHex(text);
            case BITS -> whole(new BigInteger(1, HexFormat.of().parseHex(text)));
            case STRING, TIME, JSON -> text;
        };
    }

    private static Object whole(BigInteger number) {
        return number.bitLength() < Long.SIZE ? (Object) number.longValue() : number;
    }

    /** A database may hold days that no calendar has, such as 0000-00-00; they are compared as the text they are. */
    private static Object dated(PageOrder.Key key, String text) {
        try {
            return key.type() == FieldType.DATE ? LocalDate.parse(text) : LocalDateTime.parse(text.replace(' ', 'T'));
        } catch (DateTimeParseException e) {
            return text;
        }
    }
}
