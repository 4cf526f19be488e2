package tidybridge.core.sheet;

import java.io.BufferedInputStream;
import java.io.FilterReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.Iterator;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.jspecify.annotations.Nullable;

/** The rows of a CSV file (RFC 4180), whichever of the usual characters separates its cells. A row without an end never fills the memory. */
public final class CsvRows implements SheetRows {

    private static final int HEAD = 64 * 1024;
    private static final long LONGEST_ROW = 8L * 1024 * 1024;
    private static final List<Character> SEPARATORS = List.of(',', ';', '\t', '|');

    private final CSVParser parser;
    private final Bounded bounded;
    private final Iterator<CSVRecord> records;
    private final List<String> headings;
    private final char separator;
    private final Charset encoding;
    private long line = 1;

    private CsvRows(CSVParser parser, Bounded bounded, char separator, Charset encoding)
            throws UnreadableSheet, IOException {
        this.parser = parser;
        this.bounded = bounded;
        this.separator = separator;
        this.encoding = encoding;
        this.records = parser.iterator();
        Row head = next();
        if (head == null) {
            throw new UnreadableSheet("The sheet is empty; its first line names the columns.");
        }
        if (head.cells().size() > MOST_COLUMNS) {
            throw new UnreadableSheet("The sheet has " + head.cells().size() + " columns, and " + MOST_COLUMNS
                    + " are read at most; is '" + shown(separator) + "' what separates them?");
        }
        this.headings = head.cells();
    }

    /**
     * Opens a file.
     *
     * @param separator null to tell it from the first line
     * @param encoding null for that of a byte order mark, and UTF-8 without one
     */
    public static CsvRows open(InputStream file, @Nullable Character separator, @Nullable Charset encoding)
            throws UnreadableSheet, IOException {
        BufferedInputStream bytes = new BufferedInputStream(file, HEAD);
        bytes.mark(HEAD);
        byte[] head = bytes.readNBytes(HEAD - 1);
        bytes.reset();
        Charset marked = mark(head);
        Charset charset = encoding == null ? marked == null ? StandardCharsets.UTF_8 : marked : encoding;
        bytes.skipNBytes(marked == null ? 0 : marked == StandardCharsets.UTF_8 ? 3 : 2);
        if (marked == null && new String(head, StandardCharsets.ISO_8859_1).indexOf('\0') >= 0) {
            throw new UnreadableSheet(
                    "The file holds bytes that no text has; it must be CSV, or a spreadsheet saved as .xlsx.");
        }
        char found = separator == null ? separator(new String(head, charset)) : separator;
        Bounded bounded = new Bounded(new InputStreamReader(
                bytes,
                charset.newDecoder()
                        .onMalformedInput(CodingErrorAction.REPORT)
                        .onUnmappableCharacter(CodingErrorAction.REPORT)));
        CSVFormat format = CSVFormat.RFC4180
                .builder()
                .setDelimiter(found)
                .setIgnoreEmptyLines(true)
                .get();
        return new CsvRows(
                CSVParser.builder().setReader(bounded).setFormat(format).get(), bounded, found, charset);
    }

    private static @Nullable Charset mark(byte[] head) {
        if (starts(head, 0xEF, 0xBB, 0xBF)) {
            return StandardCharsets.UTF_8;
        }
        return starts(head, 0xFF, 0xFE)
                ? StandardCharsets.UTF_16LE
                : starts(head, 0xFE, 0xFF) ? StandardCharsets.UTF_16BE : null;
    }

    private static boolean starts(byte[] head, int... bytes) {
        for (int i = 0; i < bytes.length; i++) {
            if (head.length <= i || (head[i] & 0xFF) != bytes[i]) {
                return false;
            }
        }
        return true;
    }

    /** The one that stands most often in the first line, outside of quotes. */
    private static char separator(String head) {
        int[] counts = new int[SEPARATORS.size()];
        boolean quoted = false;
        for (int i = 0; i < head.length(); i++) {
            char c = head.charAt(i);
            quoted ^= c == '"';
            if (!quoted && (c == '\n' || c == '\r')) {
                break;
            }
            int known = quoted ? -1 : SEPARATORS.indexOf(c);
            if (known >= 0) {
                counts[known]++;
            }
        }
        int best = 0;
        for (int i = 1; i < counts.length; i++) {
            best = counts[i] > counts[best] ? i : best;
        }
        return SEPARATORS.get(best);
    }

    @Override
    public List<String> headings() {
        return headings;
    }

    /** What separates the cells. */
    public char separator() {
        return separator;
    }

    public Charset encoding() {
        return encoding;
    }

    @Override
    public @Nullable Row next() throws UnreadableSheet, IOException {
        try {
            bounded.begin();
            if (!records.hasNext()) {
                return null;
            }
            CSVRecord found = records.next();
            long end = parser.getCurrentLineNumber();
            Row row = new Row(end - breaks(found), List.of(found.values()), null);
            line = end + 1;
            for (String cell : row.cells()) {
                if (cell.length() > LONGEST_CELL) {
                    throw new UnreadableSheet("A cell at line " + row.line() + " is longer than " + LONGEST_CELL
                            + " characters; is a quotation mark missing there?");
                }
            }
            return row;
        } catch (UncheckedIOException | IllegalStateException e) {
            throw unreadable(e.getCause());
        }
    }

    /** How many of its lines end within a cell. */
    private static long breaks(CSVRecord record) {
        long breaks = 0;
        for (String cell : record) {
            for (int i = 0; i < cell.length(); i++) {
                char c = cell.charAt(i);
                breaks += c == '\n' || c == '\r' && (i + 1 == cell.length() || cell.charAt(i + 1) != '\n') ? 1 : 0;
            }
        }
        return breaks;
    }

    private UnreadableSheet unreadable(@Nullable Throwable cause) throws IOException {
        if (cause instanceof CharacterCodingException) {
            return new UnreadableSheet("The file is not written in " + encoding
                    + "; save it as UTF-8, or say its encoding, such as windows-1252.");
        }
        if (cause instanceof Endless) {
            return new UnreadableSheet("The row that begins at line " + line + " has no end within "
                    + LONGEST_ROW / 1024 / 1024 + " MB; is a quotation mark missing there?");
        }
        if (cause instanceof IOException && !String.valueOf(cause.getMessage()).isEmpty()) {
            return new UnreadableSheet("The quotation marks of the row at line " + line
                    + " are not in pairs; write a quotation mark within a quoted cell twice.");
        }
        throw new IOException(cause);
    }

    /** A separator as people write it. */
    public static String shown(char separator) {
        return separator == '\t' ? "tab" : String.valueOf(separator);
    }

    @Override
    public void close() throws IOException {
        parser.close();
    }

    /** A row has gone on for too long. */
    private static final class Endless extends IOException {}

    /** Counts what is read for one row. */
    private static final class Bounded extends FilterReader {
        private long read;

        Bounded(Reader in) {
            super(in);
        }

        void begin() {
            read = 0;
        }

        @Override
        public int read(char[] into, int from, int length) throws IOException {
            if (read > LONGEST_ROW) {
                throw new Endless();
            }
            int count = super.read(into, from, length);
            read += Math.max(0, count);
            return count;
        }

        @Override
        public int read() throws IOException {
            if (++read > LONGEST_ROW) {
                throw new Endless();
            }
            return super.read();
        }
    }
}
