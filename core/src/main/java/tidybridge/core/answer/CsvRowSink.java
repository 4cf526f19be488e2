package tidybridge.core.answer;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.List;

/**
 * Writes flat rows as comma-separated values (RFC 4180) in UTF-8. What is null is an empty cell, and an empty text is {@code ""}.
 *
 * <p>A text that a spreadsheet would run as a formula gets an apostrophe before it, and so does one that begins with an apostrophe: a
 * reader that takes one apostrophe off every text that has one gets what the database holds.
 */
public final class CsvRowSink extends TableRowSink {

    private static final int BUFFER_BYTES = 8_000;

    /** The most bytes of one char. */
    private static final int CHAR_BYTES = 4;

    private static final int ASCII = 0x80;
    private static final char FULL_WIDTH_PLUS = '\uff0b';
    private static final char FULL_WIDTH_MINUS = '\uff0d';
    private static final char FULL_WIDTH_EQUALS = '\uff1d';
    private static final char FULL_WIDTH_AT = '\uff20';

    private final OutputStream out;
    private final boolean isNarrow;
    private final byte[] buffer = new byte[BUFFER_BYTES];
    private int size;
    private boolean isFirst = true;

    /**
     * Begins a table.
     *
     * @param names of the columns
     * @param header true when they are its first line
     */
    public CsvRowSink(OutputStream out, List<String> names, boolean header) {
        this.out = out;
        this.isNarrow = names.size() == 1;
        if (header) {
            for (String name : names) {
                next();
                text(name);
            }
            endObject();
        }
    }

    @Override
    public void endPage(PageEnd end) {
        // nothing stands behind the rows
    }

    @Override
    public void beginObject() {
        isFirst = true;
    }

    @Override
    public void endObject() {
        ascii("\r\n");
        isFirst = true;
    }

    @Override
    public void name(FieldName name) {
        next();
    }

    private void next() {
        if (!isFirst) {
            put((byte) ',');
        }
        isFirst = false;
    }

    /** A line without a character is no row to many readers, so that a row of one cell has two. */
    @Override
    public void nothing() {
        if (isNarrow) {
            ascii("\"\"");
        }
    }

    @Override
    public void integer(long value) {
        ascii(Long.toString(value));
    }

    @Override
    public void real(double value) {
        ascii(Double.toString(value));
    }

    @Override
    public void decimal(String digits) {
        ascii(digits);
    }

    @Override
    public void whole(BigInteger value) {
        ascii(value.toString());
    }

    @Override
    public void truth(boolean value) {
        ascii(value ? "true" : "false");
    }

    @Override
    public void date(String value) {
        ascii(value);
    }

    @Override
    public void localDateTime(String value) {
        ascii(value);
    }

    @Override
    public void text(String value) {
        boolean isRun = !value.isEmpty() && isRun(value.charAt(0));
        if (isRun || needsQuotes(value)) {
            put((byte) '"');
            if (isRun) {
                put((byte) '\'');
            }
            characters(value, true);
            put((byte) '"');
        } else {
            characters(value, false);
        }
    }

    /** What some spreadsheet takes for the start of a formula, and what marks a text that is none. */
    private static boolean isRun(char first) {
        return switch (first) {
            case '=', '+', '-', '@', '\t', '\r', '\n', '\'' -> true;
            case FULL_WIDTH_EQUALS, FULL_WIDTH_PLUS, FULL_WIDTH_MINUS, FULL_WIDTH_AT -> true;
            default -> false;
        };
    }

    private static boolean needsQuotes(String value) {
        int length = value.length();
        if (length == 0 || value.charAt(0) == ' ' || value.charAt(length - 1) == ' ') {
            return true;
        }
        for (int i = 0; i < length; i++) {
            char c = value.charAt(i);
            if (c == ',' || c == '"' || c == '\r' || c == '\n') {
                return true;
            }
        }
        return false;
    }

    private void characters(String value, boolean quoted) {
        int length = value.length();
        for (int i = 0; i < length; i++) {
            char c = value.charAt(i);
            if (c < ASCII) {
                put((byte) c);
                if (c == '"' && quoted) {
                    put((byte) '"');
                }
            } else {
                int end = Character.isHighSurrogate(c) && i + 1 < length ? i + 2 : i + 1;
                bytesOf(value.substring(i, end));
                i = end - 1;
            }
        }
    }

    private void bytesOf(String characters) {
        byte[] bytes = characters.getBytes(StandardCharsets.UTF_8);
        room(CHAR_BYTES);
        System.arraycopy(bytes, 0, buffer, size, bytes.length);
        size += bytes.length;
    }

    private void ascii(String text) {
        int length = text.length();
        for (int i = 0; i < length; i++) {
            put((byte) text.charAt(i));
        }
    }

    private void put(byte value) {
        room(1);
        buffer[size++] = value;
    }

    private void room(int bytes) {
        if (size + bytes > BUFFER_BYTES) {
            send();
        }
    }

    private void send() {
        try {
            out.write(buffer, 0, size);
            size = 0;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A quote that nobody closes. */
    @Override
    public void cutOff() {
        ascii("\r\n\"These rows end before the last one.");
        send();
    }

    @Override
    public void close() {
        send();
    }
}
