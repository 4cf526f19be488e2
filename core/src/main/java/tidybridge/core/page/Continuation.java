package tidybridge.core.page;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.util.Base64;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.jspecify.annotations.Nullable;

/**
 * Writes and reads the {@code after} of a collection: the order values of the last row, sealed with HMAC-SHA256 (RFC 2104) for one
 * operation. Thread-safe.
 */
public final class Continuation {

    private static final int SEAL_BYTES = 16;

    /** The size that stands for no value at all. */
    private static final int NULL = 0xff_ff_ff;

    private static final String ALGORITHM = "HmacSHA256";
    private static final Base64.Encoder ENCODER = Base64.getUrlEncoder().withoutPadding();

    private static final byte[] NOTHING = {};

    private final Mac prototype;

    /**
     * Makes a codec.
     *
     * @param key a secret that all nodes share, at least 16 bytes
     */
    public Continuation(byte[] key) {
        if (key.length < SEAL_BYTES) {
            throw new IllegalArgumentException("the key has " + key.length + " bytes; " + SEAL_BYTES + " are needed");
        }
        try {
            prototype = Mac.getInstance(ALGORITHM);
            prototype.init(new SecretKeySpec(key, ALGORITHM));
        } catch (GeneralSecurityException e) {
            throw new IllegalStateException("every Java platform has " + ALGORITHM, e);
        }
    }

    /**
     * Writes the values of a row.
     *
     * @param scope the operation and its order, so that a position is good for nothing else
     * @param values the order values as text, each below 16 MiB
     */
    public String write(String scope, @Nullable String[] values) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream(48);
        for (String value : values) {
            byte[] utf8 = value == null ? NOTHING : value.getBytes(StandardCharsets.UTF_8);
            int size = value == null ? NULL : utf8.length;
            bytes.write(size >>> 16);
            bytes.write(size >>> 8);
            bytes.write(size);
            bytes.writeBytes(utf8);
        }
        byte[] payload = bytes.toByteArray();
        bytes.write(seal(scope, payload, payload.length), 0, SEAL_BYTES);
        return ENCODER.encodeToString(bytes.toByteArray());
    }

    /**
     * Reads what {@link #write} wrote for the same scope.
     *
     * @return the values, or null when the text was changed, cut, made for another scope or with another key
     */
    public @Nullable String @Nullable [] read(String scope, String after, int count) {
        byte[] bytes;
        try {
            bytes = Base64.getUrlDecoder().decode(after);
        } catch (IllegalArgumentException e) {
            return null;
        }
        int length = bytes.length - SEAL_BYTES;
        if (length < 0 || !sealed(scope, bytes, length)) {
            return null;
        }
        @Nullable String[] values = new @Nullable String[count];
        int at = 0;
        for (int i = 0; i < count; i++) {
            if (at + 3 > length) {
                return null;
            }
            int size = (bytes[at] & 0xff) << 16 | (bytes[at + 1] & 0xff) << 8 | bytes[at + 2] & 0xff;
            at += 3;
            if (size != NULL) {
                values[i] = new String(bytes, at, size, StandardCharsets.UTF_8);
                at += size;
            }
        }
        return values;
    }

    private boolean sealed(String scope, byte[] bytes, int length) {
        byte[] expected = new byte[SEAL_BYTES];
        System.arraycopy(seal(scope, bytes, length), 0, expected, 0, SEAL_BYTES);
        byte[] found = new byte[SEAL_BYTES];
        System.arraycopy(bytes, length, found, 0, SEAL_BYTES);
        return MessageDigest.isEqual(expected, found);
    }

    private byte[] seal(String scope, byte[] payload, int length) {
        try {
            Mac mac = (Mac) prototype.clone();
            mac.update(scope.getBytes(StandardCharsets.UTF_8));
            mac.update((byte) 0);
            mac.update(payload, 0, length);
            return mac.doFinal();
        } catch (CloneNotSupportedException e) {
            throw new IllegalStateException("the platform's " + ALGORITHM + " cannot be cloned", e);
        }
    }
}
