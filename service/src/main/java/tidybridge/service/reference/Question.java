package tidybridge.service.reference;

import org.jspecify.annotations.Nullable;
import tidybridge.core.directory.SearchWords;

/**
 * What somebody asks of the directory. Every link of its page repeats it, so that no part of it is long.
 *
 * @param text as typed; empty for everything
 * @param owner null for whoever it is
 * @param tag null for any
 */
public record Question(
        String text, @Nullable String owner, @Nullable String tag) {

    /** Everything. */
    static final Question ALL = new Question("", null, null);

    /** No owner and no tag has more characters. */
    private static final int LONGEST_WORD = 100;

    /** Reads what an address says; what is longer than can be looked for is cut off. */
    static Question of(@Nullable String text, @Nullable String owner, @Nullable String tag) {
        return new Question(text == null ? "" : cut(text.strip(), SearchWords.LONGEST), word(owner), word(tag));
    }

    private static @Nullable String word(@Nullable String text) {
        return text == null || text.isBlank() ? null : cut(text, LONGEST_WORD);
    }

    private static String cut(String text, int most) {
        return text.length() > most ? text.substring(0, most) : text;
    }

    public boolean isEmpty() {
        return text.isEmpty() && owner == null && tag == null;
    }
}
