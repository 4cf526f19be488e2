package tidybridge.core.definition;

import java.time.Duration;

/**
 * How many rows a page holds.
 *
 * @param limit rows in a page when the caller does not say
 * @param most rows a caller may ask for at once
 * @param mostOfAll rows that a caller gets who asks for all of them; 0 when nobody may
 * @param allTimeout how long they may take
 * @param jumps whether a caller may begin at a row, ask for the last page, and go back
 */
public record PageRule(int limit, int most, int mostOfAll, Duration allTimeout, boolean jumps) {

    /** How many rows all may be when the text does not say. */
    static final int USUAL_MOST_OF_ALL = 1_000_000;

    /** How long all rows may take when the text does not say. */
    static final Duration USUAL_ALL_TIMEOUT = Duration.ofMinutes(10);

    /** The longest that all rows may take. */
    static final Duration LONGEST_ALL_TIMEOUT = Duration.ofHours(2);

    /** What a module has that says nothing. */
    public static final PageRule DEFAULT = new PageRule(25, 200, 0, USUAL_ALL_TIMEOUT, false);

    /** The largest page any definition may allow, in rows. */
    public static final int CEILING = 1_000_000;

    /** The most rows that all of a collection may be. */
    public static final int CEILING_OF_ALL = 100_000_000;

    /** True when callers may ask for all rows at once. */
    public boolean offersAll() {
        return mostOfAll > 0;
    }
}
