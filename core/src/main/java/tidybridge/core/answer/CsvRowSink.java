package tidybridge.core.answer;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.math.BigInteger;
import java.util.List;

/**
 * Writes flat rows as comma-separated values (RFC 4180) in UTF-8. What is null is an empty cell, and an empty text is {@code ""}.
 *
 * <p>A text that a spreadsheet would run as a formula gets an apostrophe before it, and so does one that begins with an apostrophe: a
 * reader that takes one apostrophe off every text that has one gets what the database holds.
 */
public final class CsvRowSink extends TableRowSink {

    private static final int BUFFER_BYTES = 8_000;

    /** The most bytes of one char, the two of a pair of surrogates together among them. */
    private static final int CHAR_BYTES = 4;

    private static final int PIECE_CHARS = 1_000;
    private static final int ONE_BYTE = 0x80;
    private static final int TWO_BYTES = 0x800;
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
        boolean quoted = isRun || needsQuotes(value);
        if (quoted) {
            put((byte) '"');
        }
        if (isRun) {
            put((byte) '\'');
        }
        int length = value.length();
        for (int at = 0; at < length; at += PIECE_CHARS) {
            characters(value, at, Math.min(at + PIECE_CHARS, length), quoted);
        }
        if (quoted) {
            put((byte) '"');
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

    /** Encodes a piece of a text, for which there is room whatever it holds; a pair of surrogates may lie across its end. */
    private void characters(String value, int from, int to, boolean quoted) {
        room((to - from) * CHAR_BYTES);
        byte[] out = buffer;
        int at = size;
        for (int i = from; i < to; i++) {
            char c = value.charAt(i);
            if (c == '"' && quoted) {
                out[at++] = '"';
                out[at++] = '"';
            } else if (c < ONE_BYTE) {
                out[at++] = (byte) c;
            } else if (c < TWO_BYTES) {
                out[at++] = (byte) (0xc0 | c >> 6);
                out[at++] = (byte) (0x80 | c & 0x3f);
            } else if (!Character.isSurrogate(c)) {
                out[at++] = (byte) (0xe0 | c >> 12);
                out[at++] = (byte) (0x80 | c >> 6 & 0x3f);
                out[at++] = (byte) (0x80 | c & 0x3f);
            } else {
                at = surrogate(value, i, out, at);
            }
        }
        size = at;
    }

    /** A pair is written at its first half; a half alone, which no database sends, is a question mark. */
    private static int surrogate(String value, int i, byte[] out, int at) {
        char c = value.charAt(i);
        if (Character.isLowSurrogate(c)) {
            if (i > 0 && Character.isHighSurrogate(value.charAt(i - 1))) {
                return at;
            }
            out[at] = '?';
            return at + 1;
        }
        if (i + 1 == value.length() || !Character.isLowSurrogate(value.charAt(i + 1))) {
            out[at] = '?';
            return at + 1;
        }
        int point = Character.toCodePoint(c, value.charAt(i + 1));
        out[at] = (byte) (0xf0 | point >> 18);
        out[at + 1] = (byte) (0x80 | point >> 12 & 0x3f);
        out[at + 2] = (byte) (0x80 | point >> 6 & 0x3f);
        out[at + 3] = (byte) (0x80 | point & 0x3f);
        return at + 4;
    }

    /** What is ASCII throughout, and short. */
    @SuppressWarnings("deprecation") // takes the low byte of each char, which is all there is of these
    private void ascii(String text) {
        int length = text.length();
        room(length);
        text.getBytes(0, length, buffer, size);
        size += length;
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
