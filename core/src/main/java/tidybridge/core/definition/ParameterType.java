package tidybridge.core.definition;

/** What a parameter is read as. */
public enum ParameterType {
    STRING("string"),
    /** A whole number of 64 bits. */
    INTEGER("integer"),
    /** An exact decimal number. */
    NUMBER("number"),
    BOOLEAN("boolean"),
    DATE("date"),
    /** A local time, without an offset. */
    TIME("time"),
    /** A moment: a date and time with an offset (RFC 3339), bound in UTC. */
    DATE_TIME("date-time"),
    /** A local time: a date and time as the wall clock shows it, without an offset, bound as it is. */
    DATE_TIME_LOCAL("date-time-local"),
    UUID("uuid"),
    EMAIL("email"),
    /** Bytes in base64. */
    BYTE("byte"),
    /** A list, for {@code in (:list)}; bound as JSON text anywhere else. */
    ARRAY("array"),
    /** A JSON object, bound as its text. */
    OBJECT("object");

    private final String label;

    ParameterType(String label) {
        this.label = label;
    }

    /** The word in a definition. */
    public String label() {
        return label;
    }

    /** True for types whose constraints are those of numbers. */
    public boolean isNumber() {
        return switch (this) {
            case INTEGER, NUMBER -> true;
            case STRING, BOOLEAN, DATE, TIME, DATE_TIME, DATE_TIME_LOCAL, UUID, EMAIL, BYTE, ARRAY, OBJECT -> false;
        };
    }

    /** True for the formats of JSON Schema that a string can have: {@code type: string} with {@code format: date}. */
    public boolean isFormat() {
        return switch (this) {
            case DATE, TIME, DATE_TIME, DATE_TIME_LOCAL, UUID, EMAIL, BYTE -> true;
            case STRING, INTEGER, NUMBER, BOOLEAN, ARRAY, OBJECT -> false;
        };
    }
}
