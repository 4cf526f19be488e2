package tidybridge.service.run;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeParseException;
import java.util.List;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.FieldName;
import tidybridge.core.answer.PageEnd;
import tidybridge.core.answer.TableRowSink;

/**
 * Writes flat rows as a spreadsheet (Office Open XML, ECMA-376), row by row, in constant memory. Beyond what one sheet holds another
 * follows. Numbers with more digits than a spreadsheet keeps, and times finer than seconds, are texts, so that nothing is rounded.
 */
final class XlsxRowSink extends TableRowSink {

    private static final String APPLICATION = "TidyBridge";
    private static final String FORMAT_VERSION = "1.0";
    private static final int ROWS_OF_SHEET = 1_048_576;
    private static final int FLUSHED_ROWS = 500;

    /** The most characters a cell holds. */
    private static final int LONGEST_TEXT = 32_767;

    private static final char UNWRITABLE = '\ufffd';

    private static final String SHORTENED = " [cut: the text is longer than a cell]";

    /** As many digits as a spreadsheet keeps of a number. */
    private static final int MOST_DIGITS = 15;

    /** Earlier days have no number there, or the wrong one. */
    private static final LocalDate FIRST_DAY = LocalDate.of(1900, 3, 1);

    private static final String DAY = "yyyy-mm-dd";
    private static final String DAY_AND_TIME = "yyyy-mm-dd hh:mm:ss";

    private final Workbook book;
    private final List<String> names;
    private final boolean header;
    private Worksheet sheet;
    private int sheets;
    private int row;
    private int column;

    XlsxRowSink(OutputStream out, List<String> names, boolean header) {
        this.book = new Workbook(out, APPLICATION, FORMAT_VERSION);
        this.names = names;
        this.header = header;
        this.sheet = begin();
    }

    private Worksheet begin() {
        sheets++;
        Worksheet begun = book.newWorksheet(sheets == 1 ? "rows" : "rows " + sheets);
        row = 0;
        if (header) {
            for (int i = 0; i < names.size(); i++) {
                begun.inlineString(0, i, names.get(i));
                begun.style(0, i).bold().set();
            }
            begun.freezePane(0, 1);
            row = 1;
        }
        return begun;
    }

    @Override
    public void endPage(PageEnd end) {
        // nothing stands behind the rows
    }

    @Override
    public void beginObject() {
        column = -1;
        if (row == ROWS_OF_SHEET) {
            finish();
            sheet = begin();
        }
    }

    @Override
    public void endObject() {
        row++;
        if (row % FLUSHED_ROWS == 0) {
            try {
                sheet.flush();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    private void finish() {
        try {
            sheet.finish();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void name(FieldName name) {
        column++;
    }

    @Override
    public void nothing() {
        // an empty cell
    }

    @Override
    public void integer(long value) {
        number(BigDecimal.valueOf(value));
    }

    @Override
    public void real(double value) {
        sheet.value(row, column, value);
    }

    @Override
    public void decimal(String digits) {
        number(new BigDecimal(digits));
    }

    @Override
    public void whole(BigInteger value) {
        number(new BigDecimal(value));
    }

    private void number(BigDecimal value) {
        if (value.precision() > MOST_DIGITS) {
            text(value.toPlainString());
        } else {
            sheet.value(row, column, value);
        }
    }

    @Override
    public void truth(boolean value) {
        sheet.value(row, column, value);
    }

    @Override
    public void text(String value) {
        String fitting = value.length() <= LONGEST_TEXT
                ? value
                : value.substring(0, LONGEST_TEXT - SHORTENED.length()) + SHORTENED;
        sheet.inlineString(row, column, writable(fitting));
    }

    /** XML has no place for most control characters: each is shown as a sign that one was there. */
    private static String writable(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (isUnwritable(text.charAt(i))) {
                StringBuilder writable = new StringBuilder(text);
                for (int at = i; at < writable.length(); at++) {
                    if (isUnwritable(writable.charAt(at))) {
                        writable.setCharAt(at, UNWRITABLE);
                    }
                }
                return writable.toString();
            }
        }
        return text;
    }

    private static boolean isUnwritable(char c) {
        return c < ' ' && c != '\t' && c != '\n' && c != '\r' || c == '\ufffe' || c == '\uffff';
    }

    @Override
    public void date(String value) {
        LocalDate day = day(value);
        if (day == null || day.isBefore(FIRST_DAY)) {
            text(value);
            return;
        }
        sheet.value(row, column, day);
        sheet.style(row, column).format(DAY).set();
    }

    @Override
    public void localDateTime(String value) {
        LocalDateTime time = time(value);
        if (time == null || time.getNano() != 0 || time.toLocalDate().isBefore(FIRST_DAY)) {
            text(value);
            return;
        }
        sheet.value(row, column, time);
        sheet.style(row, column).format(DAY_AND_TIME).set();
    }

    /** A database may hold days that no calendar has. */
    private static @Nullable LocalDate day(String text) {
        try {
            return LocalDate.parse(text);
        } catch (DateTimeParseException e) {
            return null;
        }
    }

    private static @Nullable LocalDateTime time(String text) {
        try {
            return LocalDateTime.parse(text);
        } catch (DateTimeParseException e) {
            return null;
        }
    }

    /** Without this the spreadsheet cannot be opened, which is what becomes of one that was cut off. */
    @Override
    public void close() {
        try {
            finish();
            book.close();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
