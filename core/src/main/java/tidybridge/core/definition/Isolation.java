package tidybridge.core.definition;

import java.util.Locale;

/** How a transaction is kept apart from others (SQL, part 2). */
public enum Isolation {
    READ_COMMITTED,
    REPEATABLE_READ,
    SERIALIZABLE;

    /** As SQL writes it. */
    public String sql() {
        return name().toLowerCase(Locale.ROOT).replace('_', ' ');
    }
}
