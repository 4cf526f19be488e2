package tidybridge.core.definition;

/** What a parameter's text is read as. */
public enum ParameterType {
    STRING("string"),
    /** A whole number of 64 bits. */
    INTEGER("integer"),
    /** An exact decimal number. */
    NUMBER("number"),
    BOOLEAN("boolean"),
    DATE("date"),
    TIME("time"),
    /** A moment with offset (RFC 3339), or a local date and time without one. */
    DATE_TIME("date-time"),
    UUID("uuid");

    private final String label;

    ParameterType(String label) {
        this.label = label;
    }

    /** The word in a definition. */
    public String label() {
        return label;
    }
}
