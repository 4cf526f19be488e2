package tidybridge.core.definition;

import tidybridge.core.text.Place;

/**
 * An operation that takes an array of rows.
 *
 * @param most rows in one request
 */
public record BatchRule(int most, Outcome outcome, Place place) {

    /** What becomes of the other rows when one is refused. */
    public enum Outcome {
        /** None of them is kept. */
        TOGETHER,
        /** Each has a result of its own. */
        SEPARATE
    }

    /** How many rows one request may hold when the text does not say. */
    public static final int DEFAULT_MOST = 1_000;

    /** The most rows any operation may take at once. */
    public static final int CEILING = 100_000;
}
