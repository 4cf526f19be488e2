package tidybridge.service.sheet;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sheet.CsvRows;
import tidybridge.core.sheet.SheetRows;
import tidybridge.core.sheet.UnreadableSheet;
import tidybridge.service.capacity.BodyIntake;
import tidybridge.service.run.Refusal;

/** A sheet as it was sent, in a file of its own until it is closed. It can be read several times. */
public final class SheetFile implements AutoCloseable {

    /** The largest sheet there may be, in bytes. */
    public static final long LARGEST = 256L * 1024 * 1024;

    /** Two may come at a time, so that nobody may take a place for hours. */
    private static final Duration LONGEST = Duration.ofMinutes(10);

    private final Path file;
    private final boolean workbook;
    private final Choices choices;

    /**
     * How it is to be read.
     *
     * @param separator of a CSV file; null to find out
     * @param encoding of a CSV file; null to find out
     * @param sheet of a workbook; null for the first
     */
    public record Choices(
            @Nullable Character separator,
            @Nullable Charset encoding,
            @Nullable String sheet) {}

    private SheetFile(Path file, boolean workbook, Choices choices) {
        this.file = file;
        this.workbook = workbook;
        this.choices = choices;
    }

    /**
     * Takes the body of a request.
     *
     * @throws Refusal when it is too large, or comes too slowly
     */
    public static SheetFile of(HttpServletRequest request, Choices choices) throws Refusal, IOException {
        Path file = Files.createTempFile("sheet", ".part");
        try {
            BodyIntake.keep(request, file, LARGEST, LONGEST);
            return new SheetFile(file, isZip(file), choices);
        } catch (IOException | RuntimeException e) {
            Files.deleteIfExists(file);
            throw e;
        } catch (Refusal e) {
            Files.deleteIfExists(file);
            throw e.problem().kind() == ProblemKind.BODY_TOO_LARGE
                    ? new Refusal(
                            ProblemKind.BODY_TOO_LARGE,
                            "A sheet may have " + LARGEST / 1024 / 1024
                                    + " MB; load a larger one with the database's own tools, and draft from the table.")
                    : e;
        }
    }

    private static boolean isZip(Path file) throws IOException {
        try (InputStream in = Files.newInputStream(file)) {
            byte[] head = in.readNBytes(4);
            return head.length == 4 && head[0] == 'P' && head[1] == 'K' && head[2] == 3 && head[3] == 4;
        }
    }

    /** True for a workbook of a spreadsheet program. */
    public boolean isWorkbook() {
        return workbook;
    }

    /** Its rows, from the first one. */
    public SheetRows open() throws UnreadableSheet, IOException {
        return workbook
                ? WorkbookRows.open(file, choices.sheet())
                : CsvRows.open(Files.newInputStream(file), choices.separator(), choices.encoding());
    }

    @Override
    public void close() throws IOException {
        Files.deleteIfExists(file);
    }
}
