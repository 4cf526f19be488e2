package tidybridge.core.archive;

import java.time.Instant;
import java.util.List;

/**
 * What an archive says of itself, in its file {@value #FILE}.
 *
 * @param form of the archive, {@value #FORM}
 * @param program that wrote it
 * @param madeAt when that was begun
 * @param schema the number of the record store's form, as its migrations count
 * @param files all others, in the order in which they were written
 */
public record Manifest(int form, String program, Instant madeAt, int schema, List<Entry> files) {

    /** The form that this program writes and reads. */
    public static final int FORM = 1;

    /** The last file of an archive. */
    public static final String FILE = "archive.json";

    public Manifest {
        files = List.copyOf(files);
    }

    /**
     * A file of an archive.
     *
     * @param name its path in the archive
     * @param bytes how long it is
     * @param rows how many rows of a table it holds; 0 for a text
     * @param sha256 of its bytes, in hexadecimal
     */
    public record Entry(String name, long bytes, long rows, String sha256) {}
}
