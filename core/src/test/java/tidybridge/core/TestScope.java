package tidybridge.core;

/** How much is tried: what a change can break, or with {@code ./tidy test --all} what only a release needs too. */
public final class TestScope {

    /** True where everything is tried. */
    public static final boolean ALL = Boolean.getBoolean("tidy.tests.all");

    private static final int SHARE = 10;

    private TestScope() {}

    /** How many rounds of so many a property is tried for: the first tenth of them, or all. */
    public static int rounds(int all) {
        return ALL ? all : all / SHARE;
    }
}
