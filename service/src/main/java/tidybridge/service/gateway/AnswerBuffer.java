package tidybridge.service.gateway;

import java.io.IOException;
import java.io.OutputStream;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import tidybridge.engine.ConnectionShare;

/**
 * Holds an answer back until it is whole or large. A whole one is sent with its length and every header; one that outgrows the
 * buffer is sent as it comes, in constant memory. Until the first byte leaves, the answer may still become a problem.
 */
final class AnswerBuffer extends OutputStream {

    /** Beyond this many bytes an answer streams; earlier, when others need the room. A page is usually far below. */
    static final int LARGEST_HELD_BYTES = 2 * 1024 * 1024;

    /** From here on room is asked for more carefully. */
    private static final int LARGE_BYTES = 256 * 1024;

    /** So much is held in any case. */
    private static final int ALWAYS_HELD_BYTES = 8 * 1024;

    /** The same for an answer that is known to be long, so that its first byte leaves at once. */
    static final int LONG_HELD_BYTES = 8 * 1024;

    private static final byte[] NOTHING = {};

    private final Exchange exchange;
    private final boolean head;
    private int most = LARGEST_HELD_BYTES;
    /** Grows as it is needed: a short answer comes in one piece, and gets exactly its own size. */
    private byte[] bytes = NOTHING;

    private int size;
    private boolean streaming;
    private ConnectionShare.@Nullable Turn turn;
    private Runnable whenStreaming = () -> {};

    AnswerBuffer(Exchange exchange, boolean head) {
        this.exchange = exchange;
        this.head = head;
    }

    /** The answer may not begin to leave before its end while no turn is free. */
    static final class NoTurn extends IOException {
        NoTurn() {
            super("as many answers stream as may");
        }
    }

    /** Says what is taken before the first byte of an answer leaves that cannot be held. */
    void takesWhenLong(ConnectionShare.Turn turn) {
        this.turn = turn;
    }

    /** Says what is done before the first byte of an answer leaves that cannot be held. */
    void whenStreaming(Runnable action) {
        whenStreaming = action;
    }

    /** Says that the answer will be long. */
    void expectLong() {
        most = LONG_HELD_BYTES;
    }

    @Override
    public void write(int value) throws IOException {
        write(new byte[] {(byte) value}, 0, 1);
    }

    @Override
    public void write(byte[] source, int offset, int length) throws IOException {
        if (streaming) {
            send(source, offset, length);
            return;
        }
        if (size + length > most || !grown(size + length)) {
            stream();
            send(source, offset, length);
            return;
        }
        System.arraycopy(source, offset, bytes, size, length);
        size += length;
    }

    /** Takes the bytes of a whole answer, which nobody changes any more. */
    void take(byte[] whole, int length) {
        bytes = whole;
        size = length;
    }

    /** Makes room for so many bytes; false when others need it. */
    private boolean grown(int needed) {
        if (needed > bytes.length) {
            int times = bytes.length < LARGE_BYTES ? 4 : 2;
            int capacity = Math.max(needed, Math.min(bytes.length * times, most));
            if (capacity > ALWAYS_HELD_BYTES && !exchange.hold(capacity - bytes.length)) {
                return false;
            }
            bytes = Arrays.copyOf(bytes, capacity);
        }
        return true;
    }

    private void stream() throws IOException {
        if (turn != null && !turn.now()) {
            throw new NoTurn();
        }
        whenStreaming.run();
        streaming = true;
        send(bytes, 0, size);
        if (most == LONG_HELD_BYTES) {
            // the first rows of a long answer leave now, whatever the server or a coding collects
            exchange.out().flush();
        }
        bytes = NOTHING;
    }

    private void send(byte[] source, int offset, int length) throws IOException {
        if (!head) {
            exchange.out().write(source, offset, length);
        }
    }

    /** True once bytes have left, so that header fields and status are settled. */
    boolean isStreaming() {
        return streaming;
    }

    /** What is held, up to {@link #size}; meant to be read. */
    byte[] held() {
        return bytes;
    }

    int size() {
        return size;
    }

    /** Sends what is still held. */
    void finish() throws IOException {
        if (!streaming) {
            exchange.contentLength(size);
            send(bytes, 0, size);
        }
        exchange.end();
    }
}
