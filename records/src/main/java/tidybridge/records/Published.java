package tidybridge.records;

/**
 * What came of publishing a module.
 *
 * @param outcome what happened
 */
public record Published(Release release, Outcome outcome) {

    /** The ways publishing can end. */
    public enum Outcome {
        /** It is a new release, and live. */
        PUBLISHED,
        /** The same text was released before and is live. */
        UNCHANGED,
        /** The same text was released before, and is live again in place of another release. */
        LIVE_AGAIN
    }
}
