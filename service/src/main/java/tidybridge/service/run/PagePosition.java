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
import tidybridge.core.catalog.FieldType;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.Start;
import tidybridge.core.problem.InputError;
import tidybridge.engine.Rows;

/**
 * Where a page begins.
 *
 * @param nulls a bit for each key of the order whose value is null, from the lowest
 * @param values the order values to continue after, as their columns' own types; null at the beginning
 */
record PagePosition(Start start, long nulls, @Nullable Object @Nullable [] values) {

    private static final PagePosition BEGINNING = new PagePosition(Start.BEGINNING, 0, null);

    /** Marks, behind the order values, that the page before held one value of the first key only. */
    private static final String TIES = "ties";

    private static final String CHANGE = "change";

    /**
     * Reads what {@link #write} wrote.
     *
     * @param scope the collection, its order, and the conditions on it
     * @param after null for the beginning
     */
    static PagePosition read(Continuation continuation, String scope, PageOrder order, @Nullable String after)
            throws BadInput {
        if (after == null) {
            return BEGINNING;
        }
        List<PageOrder.Key> keys = order.keys();
        @Nullable String[] texts = continuation.read(scope, after, keys.size() + 1);
        if (texts == null) {
            throw new BadInput(
                    List.of(
                            new InputError(
                                    Binder.AFTER,
                                    "query",
                                    "'after' is no position in this collection with these conditions; take it from page.next as it is, or leave it out to begin again.")));
        }
        @Nullable Object[] values = new @Nullable Object[keys.size()];
        long nulls = 0;
        for (int i = 0; i < values.length; i++) {
            String text = texts[i];
            values[i] = text == null ? null : typed(keys.get(i), text);
            nulls |= text == null ? 1L << i : 0;
        }
        boolean ties = TIES.equals(texts[values.length]);
        return new PagePosition(ties ? Start.AFTER_TIES : Start.AFTER_CHANGE, nulls, values);
    }

    /**
     * Writes the position behind a page.
     *
     * @param scope as it is read with
     * @param first the first order value of the page's first row
     * @param last the order values of its last row
     */
    static String write(Continuation continuation, String scope, @Nullable String first, @Nullable String[] last) {
        @Nullable String[] texts = new @Nullable String[last.length + 1];
        System.arraycopy(last, 0, texts, 0, last.length);
        texts[last.length] = Objects.equals(first, last[0]) ? TIES : CHANGE;
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
