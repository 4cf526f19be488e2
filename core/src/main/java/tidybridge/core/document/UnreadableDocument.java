package tidybridge.core.document;

/** A document that nothing can be made from; the message is a sentence for whoever sent it. */
public final class UnreadableDocument extends Exception {
    UnreadableDocument(String words) {
        super(words, null, false, false);
    }

    /** What is wrong with it, and what to do. */
    public String words() {
        return String.valueOf(getMessage());
    }
}
