package tidybridge.service.access;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.HexFormat;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A secret that the service makes and gives out once: {@code tbk_} and an id, by which it is found, and 256 random bits. Nobody guesses
 * them, so a plain hash of the secret is enough to keep.
 *
 * @param id 16 hexadecimal digits; no secret
 * @param text the whole
 */
record IssuedSecret(Kind kind, String id, String text) {

    /** What a secret is for; the first letters tell it, so that a leaked one is recognised. */
    enum Kind {
        /** A credential of a client application. */
        KEY("tbk_"),
        /** A session's, in a cookie or as a token. */
        SESSION("tbs_");

        private final String beginning;

        Kind(String beginning) {
            this.beginning = beginning;
        }
    }

    private static final int BEGINNING = 4;
    private static final int ID_BYTES = 8;
    private static final int ID_END = BEGINNING + 2 * ID_BYTES;
    private static final int SECRET_BYTES = 32;
    private static final int LENGTH = ID_END + 1 + 43;
    private static final Pattern FORM = Pattern.compile("tb[ks]_[0-9a-f]{16}_[A-Za-z0-9_-]{43}");

    static IssuedSecret make(Kind kind, SecureRandom random) {
        byte[] id = new byte[ID_BYTES];
        random.nextBytes(id);
        String name = HexFormat.of().formatHex(id);
        return new IssuedSecret(kind, name, kind.beginning + name + "_" + unguessable(random));
    }

    /** 256 random bits as a text of 43 letters, digits, hyphens and underscores. */
    static String unguessable(SecureRandom random) {
        byte[] bytes = new byte[SECRET_BYTES];
        random.nextBytes(bytes);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    }

    /** Reads what somebody sent; null for what was never made here. */
    static @Nullable IssuedSecret read(String text) {
        if (text.length() != LENGTH || !FORM.matcher(text).matches()) {
            return null;
        }
        Kind kind = text.startsWith(Kind.KEY.beginning) ? Kind.KEY : Kind.SESSION;
        return new IssuedSecret(kind, text.substring(BEGINNING, ID_END), text);
    }

    /** What is kept of it: SHA-256, hexadecimal. */
    String hash() {
        return hash(text);
    }

    static String hash(String text) {
        return HexFormat.of().formatHex(digest(text));
    }

    static byte[] digest(String text) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /** Nobody shall find it in a log. */
    @Override
    public String toString() {
        return kind + " " + id;
    }
}
