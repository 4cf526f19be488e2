package tidybridge.engine;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Bound;
import tidybridge.core.plan.Variant;

/** Fills the question marks of prepared statements. */
final class Binding {

    private Binding() {}

    /** Fills those of a page. */
    static void bind(PreparedStatement statement, Query query) throws SQLException {
        int[] slots = query.variant().slots();
        @Nullable Object[] position = query.position();
        for (int i = 0; i < slots.length; i++) {
            int slot = slots[i];
            if (slot >= 0) {
                bindValue(statement, i + 1, value(query.values(), slot));
            } else if (slot == Variant.LIMIT) {
                statement.setInt(i + 1, query.rows());
            } else if (position != null) {
                bindValue(statement, i + 1, position[Variant.key(slot)]);
            }
        }
    }

    /** Fills those of a statement that is no collection. */
    static void bind(PreparedStatement statement, Variant form, @Nullable Object[] values) throws SQLException {
        int[] slots = form.slots();
        for (int i = 0; i < slots.length; i++) {
            bindValue(statement, i + 1, value(values, slots[i]));
        }
    }

    private static @Nullable Object value(@Nullable Object[] values, int slot) {
        Object value = values[Variant.value(slot)];
        if (Variant.isItem(slot) && value instanceof List<?> list) {
            return list.get(Math.min(Variant.itemOf(slot), list.size() - 1));
        }
        return value;
    }

    static void bindValue(PreparedStatement statement, int index, @Nullable Object value) throws SQLException {
        switch (value) {
            case String text -> statement.setString(index, text);
            case Long number -> statement.setLong(index, number);
            case byte[] bytes -> statement.setBytes(index, bytes);
            case List<?> list -> statement.setString(index, Bound.text(list));
            case Bound.Json json -> statement.setString(index, json.text());
            case Bound.Given given -> statement.setObject(index, null);
            case null, default -> statement.setObject(index, value);
        }
    }
}
