package tidybridge.cli;

import java.io.FileOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.RandomAccessFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/**
 * A file that rows are fetched into. Until all are there it is called {@code NAME.part}, and {@code NAME.part.json} says what it holds, so
 * that a later run goes on behind its last whole row.
 */
final class ExportFile {

    private static final int BUFFER = 64 * 1024;

    private final Path file;
    private final Path part;
    private final Path note;

    ExportFile(Path file) {
        this.file = file;
        this.part = file.resolveSibling(file.getFileName() + ".part");
        this.note = file.resolveSibling(file.getFileName() + ".part.json");
    }

    Path path() {
        return file;
    }

    /**
     * What an earlier run left.
     *
     * @param key the fields by which one can go on at a row
     * @param rows the whole ones, read again
     */
    record Rest(List<String> key, RowScanner rows) {}

    /**
     * What is there of the same call, cut behind its last whole row.
     *
     * @return null when there is nothing to go on with
     */
    @Nullable
    Rest rest(String address, boolean isTable) {
        if (!Files.exists(part) || !Files.exists(note)) {
            return null;
        }
        try {
            JsonNode said = Service.parse(Files.readString(note));
            if (!said.path("address").asString("").equals(address)) {
                throw CommandFailure.refused("The file " + part
                        + " is the beginning of another call's answer; delete it, or name another file.");
            }
            List<String> key = Texts.list(said.path("key"));
            if (key.isEmpty()) {
                return null;
            }
            RowScanner rows = new RowScanner(isTable);
            try (InputStream in = Files.newInputStream(part)) {
                byte[] some = new byte[BUFFER];
                for (int read = in.read(some); read >= 0; read = in.read(some)) {
                    rows.take(some, read);
                }
            }
            try (RandomAccessFile whole = new RandomAccessFile(part.toFile(), "rw")) {
                whole.setLength(rows.wholeBytes());
            }
            return rows.rows() == 0 ? null : new Rest(key, rows);
        } catch (IOException | JacksonException e) {
            throw CommandFailure.refused("The file " + part + " cannot be gone on with; delete it to begin again.");
        }
    }

    /**
     * Notes what is being fetched.
     *
     * @param key the fields by which one can go on at a row; none when nobody can
     */
    void note(String address, List<String> key) {
        try {
            Files.writeString(
                    note,
                    Service.tree(Map.of("address", address, "key", new ArrayList<>(key)))
                            .toString(),
                    StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw unwritable();
        }
    }

    /** Opens it, at its end or as a new one. */
    OutputStream open(boolean goesOn) {
        try {
            return new FileOutputStream(part.toFile(), goesOn);
        } catch (IOException e) {
            throw unwritable();
        }
    }

    /** Gives it its name: all is there. */
    void finish() {
        try {
            Files.move(part, file, StandardCopyOption.REPLACE_EXISTING);
            Files.deleteIfExists(note);
        } catch (IOException e) {
            throw unwritable();
        }
    }

    private CommandFailure unwritable() {
        return CommandFailure.refused("The file " + file + " cannot be written; look at the folder and its rights.");
    }
}
