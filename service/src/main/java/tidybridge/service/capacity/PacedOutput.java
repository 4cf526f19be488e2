package tidybridge.service.capacity;

import java.io.IOException;
import java.io.OutputStream;
import java.time.Duration;

/** Writes an answer for as long as its reader takes it at some pace, and not beyond a time for the whole. Used by one thread. */
public final class PacedOutput extends OutputStream {

    /** How long one answer may take to leave. */
    public static final Duration LONGEST = Duration.ofMinutes(10);

    /** What is written at once; as much as fits into the server's own buffer is not waited for. */
    private static final int PIECE = 32 * 1024;

    private static final int NEVER_WAITS = 8 * 1024;

    private final OutputStream out;
    private final Pace pace;
    private final Duration longest;
    private long written;
    private long begunNanos;

    /**
     * Writes to a reader.
     *
     * @param longest how long the whole may take to leave
     */
    public PacedOutput(OutputStream out, Duration longest) {
        this(out, new Pace(), longest);
    }

    PacedOutput(OutputStream out, Pace pace, Duration longest) {
        this.out = out;
        this.pace = pace;
        this.longest = longest;
    }

    @Override
    public void write(int value) throws IOException {
        write(new byte[] {(byte) value}, 0, 1);
    }

    @Override
    public void write(byte[] source, int offset, int length) throws IOException {
        if (written + length <= NEVER_WAITS) {
            written += length;
            out.write(source, offset, length);
            return;
        }
        for (int at = 0; at < length; at += PIECE) {
            piece(source, offset + at, Math.min(PIECE, length - at));
        }
    }

    private void piece(byte[] source, int offset, int length) throws IOException {
        long start = System.nanoTime();
        begunNanos = begunNanos == 0 ? start : begunNanos;
        out.write(source, offset, length);
        written += length;
        long end = System.nanoTime();
        pace.moved(length, end - start);
        if (end - begunNanos > longest.toNanos()) {
            throw new Pace.TooSlow("The answer took longer than " + longest.toMinutes() + " minutes to be read.");
        }
    }

    @Override
    public void flush() throws IOException {
        out.flush();
    }
}
