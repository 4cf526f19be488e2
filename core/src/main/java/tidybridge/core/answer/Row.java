package tidybridge.core.answer;

import org.jspecify.annotations.Nullable;

/**
 * The current row of a result, read field by field without an object around it. Fields count from 0.
 *
 * <p>Every method may throw an unchecked exception of the reader's own when the connection breaks.
 */
public interface Row {

    /** The value as the database writes it, null for NULL. */
    @Nullable
    String text(int field);

    /** The same for a field that is known to be no date and no time, which spares a look at what it is. */
    @Nullable
    default String characters(int field) {
        return text(field);
    }

    /** The value as a whole number; 0 for NULL, told apart by {@link #wasNull()}. */
    long integer(int field);

    /** The value as a floating point number; 0 for NULL. */
    double real(int field);

    /** The value as bytes, null for NULL. */
    byte @Nullable [] bytes(int field);

    /** True when the value read last was NULL. */
    boolean wasNull();
}
