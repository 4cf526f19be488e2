package tidybridge.service.access;

import com.eatthepath.otp.TimeBasedOneTimePasswordGenerator;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.InvalidKeyException;
import java.security.SecureRandom;
import java.time.Instant;
import javax.crypto.spec.SecretKeySpec;
import org.apache.commons.codec.binary.Base32;

/** Codes that an authenticator shows (TOTP, RFC 6238): six digits, new every 30 seconds, of SHA-1, which all authenticators know. */
final class SecondFactor {

    private static final String ISSUER = "Tidy Bridge";
    private static final int SECRET_BYTES = 20;
    private static final int STEPS_AROUND = 1;

    private static final TimeBasedOneTimePasswordGenerator CODES = new TimeBasedOneTimePasswordGenerator();

    private SecondFactor() {}

    /** A new shared secret, in Base32. */
    static String secret(SecureRandom random) {
        byte[] bytes = new byte[SECRET_BYTES];
        random.nextBytes(bytes);
        return new Base32().encodeToString(bytes);
    }

    /** What an authenticator reads from a picture. */
    static String address(String person, String secret) {
        return "otpauth://totp/" + encoded(ISSUER + ":" + person) + "?secret=" + secret + "&issuer=" + encoded(ISSUER);
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }

    /** The time step whose code it is, one earlier and one later at most; -1 for a wrong one. */
    static long step(String secret, String code, Instant now) {
        long step = now.getEpochSecond() / CODES.getTimeStep().toSeconds();
        for (long near = step - STEPS_AROUND; near <= step + STEPS_AROUND; near++) {
            if (code.equals(code(secret, near))) {
                return near;
            }
        }
        return -1;
    }

    /** The code of a time step. */
    static String code(String secret, long step) {
        try {
            SecretKeySpec key = new SecretKeySpec(new Base32().decode(secret), CODES.getAlgorithm());
            Instant within = Instant.ofEpochSecond(step * CODES.getTimeStep().toSeconds());
            return CODES.generateOneTimePasswordString(key, within);
        } catch (InvalidKeyException e) {
            throw new IllegalStateException("every secret is a key", e);
        }
    }
}
