package tidybridge.service.gateway;

import java.io.IOException;
import java.io.OutputStream;
import java.util.Arrays;

/**
 * Holds an answer back until it is whole or large. A whole one is sent with its length and every header; one that outgrows the
 * buffer is sent as it comes, in constant memory. Until the first byte leaves, the answer may still become a problem.
 */
final class AnswerBuffer extends OutputStream {

    /** Beyond this many bytes an answer streams. */
    static final int LARGEST_HELD_BYTES = 256 * 1024;

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

    AnswerBuffer(Exchange exchange, boolean head) {
        this.exchange = exchange;
        this.head = head;
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
        if (size + length > most) {
            streaming = true;
            send(bytes, 0, size);
            send(source, offset, length);
            return;
        }
        if (size + length > bytes.length) {
            bytes = Arrays.copyOf(bytes, Math.max(size + length, Math.min(bytes.length * 4, most)));
        }
        System.arraycopy(source, offset, bytes, size, length);
        size += length;
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
    }
}
