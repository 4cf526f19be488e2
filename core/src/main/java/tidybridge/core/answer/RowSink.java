package tidybridge.core.answer;

import java.math.BigInteger;

/**
 * Takes an answer's rows value by value and writes them in one notation. A compiled {@link RowWriter} drives it, so that another notation
 * is another sink and nothing else. Used by one thread.
 *
 * <p>Methods may throw {@link java.io.UncheckedIOException} or a runtime exception of their library when the bytes cannot leave.
 */
public interface RowSink extends AutoCloseable {

    /** Begins a page, whose rows follow. */
    void beginPage();

    /** Ends a page. Notations that have no place for what is said behind the rows leave it out. */
    void endPage(PageEnd end);

    /** Begins an answer of one value, which follows. */
    void beginValue();

    void endValue();

    /** Begins a row, or an object inside one. */
    void beginObject();

    void endObject();

    /** Begins a list of rows inside a row. */
    void beginList();

    void endList();

    /** Says what the next value is called. */
    void name(FieldName name);

    void nothing();

    void integer(long value);

    void real(double value);

    /** A number with all of its digits. */
    void decimal(String digits);

    void whole(BigInteger value);

    void truth(boolean value);

    void text(String value);

    /** A JSON text of the database's own. */
    void json(String value);

    void bytes(byte[] value);

    /** A day, as ISO 8601 writes it. */
    default void date(String value) {
        text(value);
    }

    /** A day and a time without a zone, as ISO 8601 writes them. */
    default void localDateTime(String value) {
        text(value);
    }

    /** A shape as the database stores it: four bytes of SRID, then well-known binary. */
    void geometry(byte[] value);

    /** Spoils what was written so that nobody takes it for whole: the rows end before their end. Nothing is written after it. */
    default void cutOff() {}

    /** Hands the last bytes on. */
    @Override
    void close();
}
