package tidybridge.core.typed;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;

/** What every client in a language has in common, with marks where a module's own parts go. */
final class ClientFrame {

    private ClientFrame() {}

    static String read(String name) {
        try (InputStream in = ClientFrame.class.getResourceAsStream(name)) {
            if (in == null) {
                throw new IllegalStateException(name + " is missing from the program");
            }
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new IllegalStateException(name + " cannot be read", e);
        }
    }
}
