package tidybridge.core.answer;

import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/** A row of texts, read as a driver would. */
public final class TextRow implements Row {
    private final @Nullable String[] values;
    private boolean wasNull;

    public TextRow(@Nullable String... values) {
        this.values = values;
    }

    @Override
    public @Nullable String text(int field) {
        wasNull = values[field] == null;
        return values[field];
    }

    @Override
    public long integer(int field) {
        String text = text(field);
        return text == null ? 0 : Long.parseLong(text);
    }

    @Override
    public double real(int field) {
        String text = text(field);
        return text == null ? 0 : Double.parseDouble(text);
    }

    @Override
    public byte @Nullable [] bytes(int field) {
        String text = text(field);
        return text == null ? null : text.getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public boolean wasNull() {
        return wasNull;
    }
}
