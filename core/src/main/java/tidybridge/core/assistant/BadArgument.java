package tidybridge.core.assistant;

/** What a tool was told makes no request; the message says what to tell it. It never holds a value. */
public final class BadArgument extends Exception {

    private static final long serialVersionUID = 1L;

    private final String words;

    BadArgument(String words) {
        super(words);
        this.words = words;
    }

    /** The message, for whoever sent the argument. */
    public String words() {
        return words;
    }
}
