package tidybridge.records;

/** What became of claiming an idempotency key. */
public sealed interface Claim {

    /** Nobody has asked this before: go on, and say what came of it. */
    record Mine(String key, String claim) implements Claim {}

    /** It was answered before. */
    record Finished(Outcome outcome) implements Claim {}

    /** The key was sent with another request. */
    record Different() implements Claim {}

    /** The same request is under way. */
    record Busy() implements Claim {}

    /** The same request was begun, and whoever ran it is gone without saying what came of it. */
    record Unknown() implements Claim {}
}
