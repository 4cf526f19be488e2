package tidybridge.service.sheet;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.math.MathContext;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Enumeration;
import java.util.Iterator;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ExcelReaderException;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Sheet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.sheet.SheetRows;
import tidybridge.core.sheet.UnreadableSheet;

/** The rows of one sheet of a workbook (Office Open XML). Of a formula its last value is taken, as the program that saved it computed it. */
final class WorkbookRows implements SheetRows {

    private static final long LARGEST = 64L * 1024 * 1024;
    private static final long LARGEST_UNPACKED = 512L * 1024 * 1024;

    /** Texts that many cells share are held in memory as a whole. */
    private static final long LARGEST_TEXTS = 32L * 1024 * 1024;

    /** A spreadsheet's numbers have so many digits; what stands beyond comes of their binary form. */
    private static final MathContext DIGITS = new MathContext(15);

    private static final DateTimeFormatter LOCAL = DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH:mm:ss", Locale.ROOT);

    private final ReadableWorkbook workbook;
    private final Stream<org.dhatim.fastexcel.reader.Row> stream;
    private final Iterator<org.dhatim.fastexcel.reader.Row> rows;
    private final List<String> headings;

    private WorkbookRows(ReadableWorkbook workbook, Sheet sheet) throws UnreadableSheet, IOException {
        this.workbook = workbook;
        this.stream = sheet.openStream();
        this.rows = stream.iterator();
        Row head = read(-1);
        if (head == null) {
            throw new UnreadableSheet("The sheet '" + sheet.getName() + "' is empty; its first row names the columns.");
        }
        List<String> names = new ArrayList<>(head.cells());
        while (!names.isEmpty() && names.getLast().isEmpty()) {
            names.removeLast();
        }
        if (names.size() > MOST_COLUMNS) {
            throw new UnreadableSheet(
                    "The sheet has " + names.size() + " columns, and " + MOST_COLUMNS + " are read at most.");
        }
        this.headings = List.copyOf(names);
    }

    /**
     * Opens one sheet.
     *
     * @param name null for the first
     */
    static WorkbookRows open(Path file, @Nullable String name) throws UnreadableSheet, IOException {
        checkSize(file);
        ReadableWorkbook workbook;
        try {
            workbook = new ReadableWorkbook(file.toFile(), new ReadingOptions(true, true));
        } catch (IOException | RuntimeException e) {
            throw unreadable();
        }
        try {
            Sheet sheet = name == null
                    ? workbook.getFirstSheet()
                    : workbook.findSheet(name)
                            .orElseThrow(() -> new UnreadableSheet("The workbook has no sheet of that name; it has "
                                    + workbook.getSheets()
                                            .map(Sheet::getName)
                                            .limit(20)
                                            .toList() + "."));
            return new WorkbookRows(workbook, sheet);
        } catch (RuntimeException e) {
            workbook.close();
            throw unreadable();
        } catch (UnreadableSheet | IOException e) {
            workbook.close();
            throw e;
        }
    }

    private static UnreadableSheet unreadable() {
        return new UnreadableSheet("The file is no workbook that can be read; save it as .xlsx, or as CSV.");
    }

    /** A small file may unpack to a very large one; so it is unpacked once before anything is kept of it. */
    private static void checkSize(Path file) throws UnreadableSheet, IOException {
        if (Files.size(file) > LARGEST) {
            throw new UnreadableSheet("A workbook may have " + LARGEST / 1024 / 1024
                    + " MB; save the sheet as CSV, which may have more.");
        }
        long all = 0;
        try (ZipFile zip = new ZipFile(file.toFile())) {
            for (Enumeration<? extends ZipEntry> entries = zip.entries(); entries.hasMoreElements(); ) {
                ZipEntry entry = entries.nextElement();
                long most = entry.getName().endsWith("sharedStrings.xml") ? LARGEST_TEXTS : LARGEST_UNPACKED;
                try (InputStream in = zip.getInputStream(entry)) {
                    long size = size(in, Math.min(most, LARGEST_UNPACKED - all) + 1);
                    all += size;
                    if (size > most || all > LARGEST_UNPACKED) {
                        throw new UnreadableSheet("The workbook holds too much; save the sheet as CSV.");
                    }
                }
            }
        } catch (ZipException e) {
            throw unreadable();
        }
    }

    private static long size(InputStream in, long most) throws IOException {
        byte[] piece = new byte[64 * 1024];
        long size = 0;
        for (int read = in.read(piece); read >= 0 && size < most; read = in.read(piece)) {
            size += read;
        }
        return size;
    }

    @Override
    public List<String> headings() {
        return headings;
    }

    @Override
    public @Nullable Row next() throws UnreadableSheet, IOException {
        return read(headings.size());
    }

    private @Nullable Row read(int width) throws UnreadableSheet, IOException {
        try {
            while (rows.hasNext()) {
                org.dhatim.fastexcel.reader.Row row = rows.next();
                List<String> cells = new ArrayList<>();
                String trouble = null;
                int count = Math.min(row.getCellCount(), MOST_COLUMNS + 1);
                for (int i = 0; i < Math.max(count, width); i++) {
                    Cell cell = i < row.getCellCount() && row.hasCell(i) ? row.getCell(i) : null;
                    trouble = cell != null && cell.getType() == CellType.ERROR
                            ? "The cell " + cell.getAddress() + " holds an error of its formula."
                            : trouble;
                    cells.add(cell == null ? "" : text(cell));
                }
                while (width >= 0 && cells.size() > width && cells.getLast().isEmpty()) {
                    cells.removeLast();
                }
                if (cells.stream().anyMatch(cell -> !cell.isEmpty())) {
                    return new Row(row.getRowNum(), cells, trouble);
                }
            }
            return null;
        } catch (UncheckedIOException e) {
            throw e.getCause();
        } catch (ExcelReaderException | IllegalStateException | IllegalArgumentException e) {
            throw unreadable();
        }
    }

    private static String text(Cell cell) {
        String raw = cell.getRawValue();
        if (raw == null || raw.isEmpty() || cell.getType() == CellType.EMPTY) {
            return "";
        }
        return switch (cell.getType()) {
            case NUMBER -> number(cell, raw);
            case BOOLEAN -> raw.equals("1") || raw.equalsIgnoreCase("true") ? "true" : "false";
            case FORMULA -> cell.getValue() instanceof BigDecimal ? number(cell, raw) : cell.getText();
            case STRING, ERROR, EMPTY -> cell.getText();
        };
    }

    private static String number(Cell cell, String raw) {
        String format = cell.getDataFormatString();
        String parts = format == null
                ? ""
                : format.replaceAll("\"[^\"]*\"|\\[[^\\]]*]|\\\\.", "").toLowerCase(Locale.ROOT);
        boolean day = parts.contains("y") || parts.contains("d");
        boolean time = parts.contains("h") || parts.contains("s");
        if (day || time) {
            LocalDateTime moment = cell.asDate();
            LocalTime clock = moment.toLocalTime().withNano(0);
            boolean midnight = clock.equals(LocalTime.MIDNIGHT);
            return !day
                    ? DateTimeFormatter.ISO_LOCAL_TIME.format(clock)
                    : time && !midnight
                            ? LOCAL.format(moment)
                            : moment.toLocalDate().toString();
        }
        BigDecimal exact = new BigDecimal(raw).round(DIGITS).stripTrailingZeros();
        return exact.signum() == 0 ? "0" : exact.toPlainString();
    }

    @Override
    public void close() throws IOException {
        stream.close();
        workbook.close();
    }
}
