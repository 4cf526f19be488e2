package tidybridge.core.finding;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;

/** The page that explains a code, from the same text as the documentation. */
public final class CodePage {

    private static final String FILE = "findings.md";

    private CodePage() {}

    /** The explanation as Markdown: what was found, why it matters, what to do. */
    public static String of(Code code) {
        String all = text();
        String head = "\n### " + code.label() + "\n";
        int start = all.indexOf(head);
        if (start < 0) {
            throw new IllegalStateException(FILE + " does not explain " + code.label());
        }
        int next = all.indexOf("\n##", start + head.length());
        return all.substring(start + head.length(), next < 0 ? all.length() : next)
                .strip();
    }

    private static String text() {
        try (InputStream in = CodePage.class.getResourceAsStream(FILE)) {
            if (in == null) {
                throw new IOException(FILE + " is not beside " + CodePage.class);
            }
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
