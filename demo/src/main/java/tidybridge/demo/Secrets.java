package tidybridge.demo;

import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.util.HexFormat;
import java.util.Properties;

/** Generated passwords, kept in one file that only its owner can read. Not thread-safe. */
public final class Secrets {

    private static final SecureRandom RANDOM = new SecureRandom();

    private final Path file;
    private final Properties known = new Properties();

    private Secrets(Path file) throws IOException {
        this.file = file;
        if (Files.exists(file)) {
            known.load(new StringReader(Files.readString(file)));
        }
    }

    /** The secrets kept in a folder. */
    public static Secrets in(Path folder) throws IOException {
        return new Secrets(folder.resolve("secrets.properties"));
    }

    /** The secret of that name: 32 hexadecimal digits, generated the first time. */
    public String get(String name) throws IOException {
        String secret = known.getProperty(name);
        if (secret == null) {
            byte[] bytes = new byte[16];
            RANDOM.nextBytes(bytes);
            secret = HexFormat.of().formatHex(bytes);
            known.setProperty(name, secret);
            save();
        }
        return secret;
    }

    private void save() throws IOException {
        if (!Files.exists(file)) {
            Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        }
        StringWriter text = new StringWriter();
        known.store(text, null);
        Files.writeString(file, text.toString());
    }
}
