package tidybridge.core.catalog;

/** What a field of an answer is in JSON, and how its value is read from a row. */
public enum FieldType {
    /** A whole number that fits 64 bits. */
    INTEGER,
    /** A number kept exactly as the database writes it: decimals and unsigned 64-bit integers. */
    DECIMAL,
    /** A binary floating point number. */
    FLOAT,
    BOOLEAN,
    /** A {@code bit} column of more than one bit, as the whole number its bits make; unsigned. */
    BITS,
    STRING,
    /** {@code 2031-05-01} */
    DATE,
    /** A time or a span as the database writes it, such as {@code 12:30:00} or {@code 838:59:59}. */
    TIME,
    /** A date and time without zone, {@code 2031-05-01T12:30:00}. */
    LOCAL_DATE_TIME,
    /** A moment, {@code 2031-05-01T12:30:00Z}; the session's zone is UTC. */
    MOMENT,
    /** JSON text, embedded as it is. */
    JSON,
    /** Bytes, written in base64. */
    BINARY,
    /** A geometry, written as GeoJSON (RFC 7946). */
    GEOMETRY;

    /** False for types a collection cannot be continued by: their order is not that of a value that can be bound again. */
    public boolean fitsOrder() {
        return switch (this) {
            case INTEGER, DECIMAL, FLOAT, BITS, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, BOOLEAN, BINARY -> true;
            case JSON, GEOMETRY -> false;
        };
    }

    /** True for numbers. */
    public boolean isNumber() {
        return switch (this) {
            case INTEGER, DECIMAL, FLOAT, BITS -> true;
            case BOOLEAN, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, JSON, BINARY, GEOMETRY -> false;
        };
    }
}
