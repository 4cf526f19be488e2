package tidybridge.service.run;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Binder;
import tidybridge.core.page.Continuation;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.Start;
import tidybridge.core.problem.InputError;
import tidybridge.engine.Rows;

/**
 * Where a page begins.
 *
 * @param values the order values to continue after, as their columns' own types; null at the beginning
 */
record PagePosition(Start start, Object @Nullable [] values) {

    private static final PagePosition BEGINNING = new PagePosition(Start.BEGINNING, null);

    /** Marks, behind the order values, that the page before held one value of the first key only. */
    private static final String TIES = "ties";

    private static final String CHANGE = "change";

    /**
     * Reads what {@link #write} wrote.
     *
     * @param after null for the beginning
     */
    static PagePosition read(Continuation continuation, CollectionPlan collection, @Nullable String after)
            throws BadInput {
        if (after == null) {
            return BEGINNING;
        }
        List<PageOrder.Key> keys = collection.order().keys();
        String[] texts = continuation.read(collection.scope(), after, keys.size() + 1);
        if (texts == null) {
            throw new BadInput(
                    List.of(
                            new InputError(
                                    Binder.AFTER,
                                    "query",
                                    "'after' is no position in this collection; take it from page.next as it is, or leave it out to begin again.")));
        }
        Object[] values = new Object[keys.size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = typed(keys.get(i), texts[i]);
        }
        return new PagePosition(texts[values.length].equals(TIES) ? Start.AFTER_TIES : Start.AFTER_CHANGE, values);
    }

    /**
     * Writes the position behind a page.
     *
     * @param first the first order value of the page's first row
     * @param last the order values of its last row
     */
    static String write(Continuation continuation, CollectionPlan collection, String first, String[] last) {
        String[] texts = new String[last.length + 1];
        System.arraycopy(last, 0, texts, 0, last.length);
        texts[last.length] = first.equals(last[0]) ? TIES : CHANGE;
        return continuation.write(collection.scope(), texts);
    }

    /** An order value of the current row as text; never null, because a nullable order was refused when it was published. */
    static String value(Rows rows, PageOrder.Key key) {
        String text = switch (key.type()) {
            case INTEGER, BOOLEAN -> String.valueOf(rows.integer(key.field()));
            case DECIMAL, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, FLOAT, JSON, BINARY, BITS, GEOMETRY ->
                rows.text(key.field());
        };
        return text == null ? "" : text;
    }

    /** All order values of the current row. */
    static String[] values(Rows rows, PageOrder order) {
        List<PageOrder.Key> keys = order.keys();
        String[] values = new String[keys.size()];
        for (int i = 0; i < values.length; i++) {
            values[i] = value(rows, keys.get(i));
        }
        return values;
    }

    /** An order value as its column's own type; a text would be converted anew for every row it is compared with. */
    private static Object typed(PageOrder.Key key, String text) {
        return switch (key.type()) {
            case INTEGER, BOOLEAN -> Long.valueOf(text);
            case DECIMAL -> new BigDecimal(text);
            case DATE -> LocalDate.parse(text);
            case LOCAL_DATE_TIME, MOMENT -> LocalDateTime.parse(text.replace(' ', 'T'));
            case STRING, TIME, FLOAT, JSON, BINARY, BITS, GEOMETRY -> text;
        };
    }
}
