package tidybridge.core.answer;

import java.math.BigInteger;
import org.jspecify.annotations.Nullable;

/**
 * Takes an answer's rows value by value and writes them in one notation. A compiled {@link RowWriter} drives it, so that another notation
 * is another sink and nothing else. Used by one thread.
 *
 * <p>Methods may throw {@link java.io.UncheckedIOException} or a runtime exception of their library when the bytes cannot leave.
 */
public interface RowSink extends AutoCloseable {

    /** Begins a page, whose rows follow. */
    void beginPage();

    /**
     * Ends a page.
     *
     * @param limit how many rows were asked for
     * @param after what continues behind it, as the next call says it; null on the last one
     * @param next the address of the next page; null on the last one
     */
    void endPage(int limit, @Nullable String after, @Nullable String next);

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

    /** A shape as the database stores it: four bytes of SRID, then well-known binary. */
    void geometry(byte[] value);

    /** Hands the last bytes on. */
    @Override
    void close();
}
