package tidybridge.core.definition;

/**
 * How many rows a page holds.
 *
 * @param limit rows in a page when the caller does not say
 * @param most rows a caller may ask for at once
 */
public record PageRule(int limit, int most) {

    /** What a module has that says nothing. */
    public static final PageRule DEFAULT = new PageRule(25, 200);

    /** The largest page any definition may allow, in rows. */
    public static final int CEILING = 1_000_000;
}
