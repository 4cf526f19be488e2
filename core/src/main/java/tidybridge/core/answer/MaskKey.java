package tidybridge.core.answer;

import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.NoSuchAlgorithmException;
import java.util.Arrays;
import java.util.HexFormat;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import tidybridge.core.definition.Mask;

/** Masks values; the key keeps hashes from being found by trying all values. Immutable and thread-safe. */
public final class MaskKey {

    private static final String STARS = "****";
    private static final String ALGORITHM = "HmacSHA256";
    private static final int HASH_BYTES = 16;

    private final SecretKeySpec key;

    /** Takes a key of any length above zero. */
    public MaskKey(byte[] key) {
        this.key = new SecretKeySpec(key, ALGORITHM);
    }

    /** The value as it may be seen. */
    String mask(Mask mask, String value) {
        return switch (mask) {
            case Mask.Whole whole -> STARS;
            case Mask.Last(int characters) -> last(value, characters);
            case Mask.Email email -> email(value);
            case Mask.Hash hash -> hash(value);
        };
    }

    /** A value that is hardly longer than what would be shown is not shown at all. */
    private static String last(String value, int characters) {
        int length = value.codePointCount(0, value.length());
        if (length < 2 * characters) {
            return STARS;
        }
        return STARS + value.substring(value.offsetByCodePoints(value.length(), -characters));
    }

    private static String email(String value) {
        int at = value.lastIndexOf('@');
        return at < 1 ? STARS : value.substring(0, value.offsetByCodePoints(0, 1)) + STARS + value.substring(at);
    }

    private String hash(String value) {
        try {
            Mac mac = Mac.getInstance(ALGORITHM);
            mac.init(key);
            byte[] digest = mac.doFinal(value.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(Arrays.copyOf(digest, HASH_BYTES));
        } catch (NoSuchAlgorithmException | InvalidKeyException e) {
            throw new IllegalStateException("every JDK has " + ALGORITHM, e);
        }
    }
}
