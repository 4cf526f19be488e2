package tidybridge.demo;

import java.nio.file.Path;

/** Where tests keep what they make. Tests run in several processes side by side, and each has a folder of its own. */
public final class TestFolder {

    private static final Path OWN = Path.of("target", "tests-" + System.getProperty("tidy.tests.fork", "1"));

    private TestFolder() {}

    /** A place in the folder of this process. */
    public static Path of(String name) {
        return OWN.resolve(name);
    }
}
