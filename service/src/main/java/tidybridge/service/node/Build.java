package tidybridge.service.node;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Properties;

/** Which program this is. */
public final class Build {

    private Build() {}

    /** {@code 0.1.0, built 2031-05-01T10:00:00Z} */
    public static String version() {
        Properties said = new Properties();
        try (InputStream in = Build.class.getResourceAsStream("build.properties")) {
            if (in == null) {
                throw new IllegalStateException("the program does not say when it was built");
            }
            said.load(in);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return said.getProperty("version") + ", built " + said.getProperty("built");
    }
}
