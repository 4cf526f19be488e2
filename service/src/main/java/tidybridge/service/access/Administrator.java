package tidybridge.service.access;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;

/** The administrator's token: generated at the first start, kept in a file that only its owner can read. Thread-safe. */
public final class Administrator {

    /** The token's file inside the service's home. */
    public static final String FILE = "administrator.token";

    private static final int TOKEN_BYTES = 32;

    private final byte[] token;

    private Administrator(String token) {
        this.token = token.getBytes(StandardCharsets.UTF_8);
    }

    /** Reads the token in this folder, or makes it. */
    public static Administrator in(Path home, SecureRandom random) {
        Path file = home.resolve(FILE);
        try {
            if (!Files.exists(file)) {
                byte[] bytes = new byte[TOKEN_BYTES];
                random.nextBytes(bytes);
                Files.createDirectories(home);
                Files.createFile(
                        file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
                Files.writeString(file, Base64.getUrlEncoder().withoutPadding().encodeToString(bytes) + "\n");
            }
            return new Administrator(Files.readString(file).strip());
        } catch (IOException e) {
            throw new UncheckedIOException("The administrator's token cannot be kept in " + file, e);
        }
    }

    /** True when the text is the token; compared in constant time. */
    public boolean is(String text) {
        return MessageDigest.isEqual(token, text.getBytes(StandardCharsets.UTF_8));
    }
}
