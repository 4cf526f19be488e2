package tidybridge.core.definition;

/** How a transaction is kept apart from others (SQL, part 2). */
public enum Isolation {
    READ_COMMITTED,
    REPEATABLE_READ,
    SERIALIZABLE;

    /** As SQL writes it. */
    public String sql() {
        return name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ');
    }
}
