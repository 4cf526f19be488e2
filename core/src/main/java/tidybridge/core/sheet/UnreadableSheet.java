package tidybridge.core.sheet;

/** A sheet that cannot be read; the message is a sentence for whoever sent it, with what to do. */
public final class UnreadableSheet extends Exception {
    public UnreadableSheet(String words) {
        super(words, null, false, false);
    }

    /** What is wrong with it. */
    public String words() {
        return String.valueOf(getMessage());
    }
}
