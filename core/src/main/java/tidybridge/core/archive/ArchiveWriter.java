package tidybridge.core.archive;

import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import tools.jackson.databind.json.JsonMapper;

/**
 * Writes an archive, one file after the other, and what it holds at its end: without that it is not whole. Used by one thread.
 */
public final class ArchiveWriter {

    private final ZipOutputStream zip;
    private final List<Manifest.Entry> files = new ArrayList<>();

    /** @param out is not closed */
    public ArchiveWriter(OutputStream out) {
        this.zip = new ZipOutputStream(out);
    }

    /** Writes the bytes of one file. */
    @FunctionalInterface
    public interface Content {

        /**
         * Writes them.
         *
         * @return how many rows of a table they are; 0 for a text
         */
        long write(OutputStream out) throws IOException;
    }

    /** Adds a file. */
    public void add(String name, Content content) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        Counted counted = new Counted(zip);
        long rows = content.write(counted);
        zip.closeEntry();
        files.add(new Manifest.Entry(name, counted.bytes, rows, HexFormat.of().formatHex(counted.digest.digest())));
    }

    /**
     * Ends the archive.
     *
     * @param program that writes it
     * @param schema the number of the record store's form
     */
    public Manifest end(String program, Instant madeAt, int schema) throws IOException {
        Manifest manifest = new Manifest(Manifest.FORM, program, madeAt, schema, files);
        zip.putNextEntry(new ZipEntry(Manifest.FILE));
        zip.write(JsonMapper.shared().writerWithDefaultPrettyPrinter().writeValueAsBytes(manifest));
        zip.closeEntry();
        zip.finish();
        return manifest;
    }

    /** Counts what goes into a file, and leaves the archive open when the file is closed. */
    private static final class Counted extends FilterOutputStream {

        private final MessageDigest digest = Digests.sha256();
        private long bytes;

        Counted(OutputStream out) {
            super(out);
        }

        @Override
        public void write(int one) throws IOException {
            out.write(one);
            digest.update((byte) one);
            bytes++;
        }

        @Override
        public void write(byte[] some, int from, int count) throws IOException {
            out.write(some, from, count);
            digest.update(some, from, count);
            bytes += count;
        }

        @Override
        public void close() throws IOException {
            flush();
        }
    }
}
