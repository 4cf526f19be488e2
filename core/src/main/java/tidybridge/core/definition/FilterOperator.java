package tidybridge.core.definition;

import java.util.Locale;
import java.util.Optional;

/** How a caller's condition compares a field, as in {@code length_m[gte]=12}. */
public enum FilterOperator {
    EQ("equal"),
    /** Of rows that have a value; what is null is not another value. */
    NE("another value"),
    LT("less"),
    LTE("less or equal"),
    GT("greater"),
    GTE("greater or equal"),
    /** One of several, with commas between them. */
    IN("one of several, with commas between them"),
    /** A text that begins so. */
    STARTS("begins with"),
    /** A text that has this somewhere. */
    CONTAINS("contains"),
    /** {@code true} for rows without a value, {@code false} for those with one. */
    NULL("true for no value, false for any");

    private final String about;

    FilterOperator(String about) {
        this.about = about;
    }

    /** What it is called in addresses and definitions. */
    public String label() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** A few words for the reference. */
    public String about() {
        return about;
    }

    /** The operator of a name. */
    public static Optional<FilterOperator> named(String label) {
        for (FilterOperator operator : values()) {
            if (operator.label().equals(label)) {
                return Optional.of(operator);
            }
        }
        return Optional.empty();
    }
}
