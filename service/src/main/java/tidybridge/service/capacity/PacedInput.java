package tidybridge.service.capacity;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Reads a body into memory: as much as may be held, at a pace that keeps nobody waiting. */
public final class PacedInput {

    /** How long the next bytes of a body may take to come. */
    public static final Duration PATIENCE = Pace.PATIENCE;

    private static final int FIRST_PIECE = BytesInFlight.FREE;
    private static final int LARGEST_PIECE = 256 * 1024;

    private PacedInput() {}

    /** Why a body was not read to its end. */
    public enum Reason {
        /** It is larger than it may be. */
        TOO_LARGE,
        /** Others hold so much that there is no room for it. */
        NO_ROOM,
        /** It comes too slowly. */
        TOO_SLOW
    }

    /** A body was not read to its end. */
    public static final class NotRead extends Exception {
        private final Reason reason;

        NotRead(Reason reason) {
            super(reason.name(), null, false, false);
            this.reason = reason;
        }

        public Reason reason() {
            return reason;
        }
    }

    /**
     * Reads to the end.
     *
     * @param announced how many bytes are said to come; negative when nothing is said
     * @param most how many may come
     * @param share holds them
     * @throws IOException when the peer hung up, or nothing came within {@link #PATIENCE}; the server has answered that itself
     */
    public static byte[] read(InputStream in, long announced, int most, BytesInFlight.Share share)
            throws NotRead, IOException {
        if (announced > most) {
            throw new NotRead(Reason.TOO_LARGE);
        }
        try {
            return announced >= 0 && announced <= FIRST_PIECE
                    ? piece(in, (int) announced, new Pace())
                    : pieces(in, announced, most, share);
        } catch (Pace.TooSlow e) {
            throw new NotRead(Reason.TOO_SLOW);
        }
    }

    /**
     * Writes all of it to somewhere else, at the same pace.
     *
     * @param announced how many bytes are said to come; negative when nothing is said
     * @param most how many may come
     * @param longest how long all of it may take
     */
    public static void copy(InputStream in, OutputStream out, long announced, long most, Duration longest)
            throws NotRead, IOException {
        if (announced > most) {
            throw new NotRead(Reason.TOO_LARGE);
        }
        try {
            Pace pace = new Pace();
            long begun = System.nanoTime();
            long size = 0;
            byte[] piece = piece(in, LARGEST_PIECE, pace);
            while (piece.length > 0) {
                size += piece.length;
                if (size > most) {
                    throw new NotRead(Reason.TOO_LARGE);
                }
                if (System.nanoTime() - begun > longest.toNanos()) {
                    throw new NotRead(Reason.TOO_SLOW);
                }
                out.write(piece);
                piece = piece(in, LARGEST_PIECE, pace);
            }
        } catch (Pace.TooSlow e) {
            throw new NotRead(Reason.TOO_SLOW);
        }
    }

    private static byte[] pieces(InputStream in, long announced, int most, BytesInFlight.Share share)
            throws NotRead, IOException {
        Pace pace = new Pace();
        List<byte[]> pieces = new ArrayList<>();
        int size = 0;
        for (int next = FIRST_PIECE; ; next = Math.min(2 * next, LARGEST_PIECE)) {
            int wanted = (int) Math.min(next, (announced < 0 ? most + 1L : announced) - size);
            if (!share.hold(wanted, BytesInFlight.PATIENCE)) {
                throw new NotRead(Reason.NO_ROOM);
            }
            byte[] piece = piece(in, wanted, pace);
            pieces.add(piece);
            size += piece.length;
            if (size > most) {
                throw new NotRead(Reason.TOO_LARGE);
            }
            if (piece.length < wanted || size == announced) {
                return joined(pieces, size);
            }
        }
    }

    private static byte[] piece(InputStream in, int wanted, Pace pace) throws IOException {
        byte[] piece = new byte[wanted];
        int size = 0;
        while (size < wanted) {
            long start = System.nanoTime();
            int read = in.read(piece, size, wanted - size);
            if (read < 0) {
                return Arrays.copyOf(piece, size);
            }
            size += read;
            pace.moved(read, System.nanoTime() - start);
        }
        return piece;
    }

    /** Each piece is let go once it is copied. */
    private static byte[] joined(List<byte[]> pieces, int size) {
        if (pieces.size() == 1) {
            return pieces.getFirst();
        }
        byte[] whole = new byte[size];
        int at = 0;
        for (int i = 0; i < pieces.size(); i++) {
            byte[] piece = pieces.get(i);
            System.arraycopy(piece, 0, whole, at, piece.length);
            at += piece.length;
            pieces.set(i, new byte[0]);
        }
        return whole;
    }
}
