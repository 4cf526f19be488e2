package tidybridge.records;

/** What somebody wants to do with a review cannot be done any more; nothing was changed. */
public final class ReviewClosed extends Exception {

    private final String words;

    ReviewClosed(String words) {
        super(words, null, false, false);
        this.words = words;
    }

    /** One sentence that says why. */
    public String words() {
        return words;
    }
}
