package tidybridge.service.gateway;

import com.github.luben.zstd.RecyclingBufferPool;
import com.github.luben.zstd.ZstdOutputStreamNoFinalizer;
import com.github.luben.zstd.util.Native;
import java.io.IOException;
import java.io.OutputStream;
import org.jspecify.annotations.Nullable;

/**
 * The content coding {@code zstd} (RFC 8878), for callers who name it. The server knows gzip by itself, and does that for the others.
 *
 * <p>The library brings code of the machine's own; where that cannot be loaded, nobody is offered the coding.
 */
final class ZstdCoding {

    /** Below it the coding costs more than it saves; the same bound as gzip's. */
    static final int LEAST_BYTES = 8 * 1024;

    static final String NAME = "zstd";

    /** Quick rather than small: it keeps up with a database. */
    private static final int LEVEL = 1;

    private static final boolean IS_THERE = isThere();

    private ZstdCoding() {}

    private static boolean isThere() {
        try {
            Native.load();
            return Native.isLoaded();
        } catch (UnsatisfiedLinkError | RuntimeException e) {
            return false;
        }
    }

    /**
     * True for an answer that is worth coding, and whose caller wants it no less than gzip.
     *
     * @param accept the field {@code Accept-Encoding}
     * @param mediaType of the answer
     */
    static boolean fits(@Nullable String accept, @Nullable String mediaType) {
        if (accept == null || !accept.contains(NAME) || mediaType == null || !isText(mediaType)) {
            return false;
        }
        double weight = AcceptField.named(accept, NAME);
        return weight > 0 && weight >= AcceptField.named(accept, "gzip") && IS_THERE;
    }

    /** A spreadsheet is compressed already, and of files nobody knows. */
    private static boolean isText(String mediaType) {
        return mediaType.startsWith("application/json")
                || mediaType.startsWith("application/x-ndjson")
                || mediaType.startsWith("text/csv");
    }

    /** Codes what is written; its end is told by closing it, without which the coded bytes are not whole. */
    static OutputStream open(OutputStream out) throws IOException {
        ZstdOutputStreamNoFinalizer coded = new ZstdOutputStreamNoFinalizer(out, RecyclingBufferPool.INSTANCE);
        coded.setLevel(LEVEL);
        return coded;
    }
}
