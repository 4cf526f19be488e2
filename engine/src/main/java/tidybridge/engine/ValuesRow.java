package tidybridge.engine;

import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.Row;

/** A row of values that are known already: what a change or a procedure hands back. Not thread-safe. */
final class ValuesRow implements Row {

    private final @Nullable Object[] values;
    private boolean wasNull;

    /**
     * Makes a row.
     *
     * @param values Long, String as the database writes it, byte[], or null
     */
    ValuesRow(@Nullable Object... values) {
        this.values = values;
    }

    private @Nullable Object value(int field) {
        Object value = values[field];
        wasNull = value == null;
        return value;
    }

    @Override
    public @Nullable String text(int field) {
        Object value = value(field);
        return value == null
                ? null
                : value instanceof byte[] bytes ? new String(bytes, StandardCharsets.UTF_8) : value.toString();
    }

    @Override
    public long integer(int field) {
        Object value = value(field);
        return value == null ? 0 : value instanceof Long number ? number : Long.parseLong(value.toString());
    }

    @Override
    public double real(int field) {
        Object value = value(field);
        return value == null ? 0 : Double.parseDouble(value.toString());
    }

    @Override
    public byte @Nullable [] bytes(int field) {
        Object value = value(field);
        return value == null
                ? null
                : value instanceof byte[] bytes ? bytes : value.toString().getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public boolean wasNull() {
        return wasNull;
    }
}
