package tidybridge.core.archive;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;

final class Digests {

    private Digests() {}

    static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has SHA-256", e);
        }
    }
}
