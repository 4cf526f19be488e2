package tidybridge.core.directory;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * What somebody looks for: words that must all be there, in any case. Immutable and thread-safe.
 *
 * @param words in lower case, {@link #MOST} at most; empty for whoever looks at everything
 */
public record SearchWords(List<String> words) {

    /** How many words are looked for. */
    public static final int MOST = 8;

    /** How many characters of a question are read. */
    public static final int LONGEST = 200;

    public SearchWords {
        words = List.copyOf(words);
    }

    /** Reads a question; what is beyond {@link #MOST} words or {@link #LONGEST} characters is not looked for. */
    public static SearchWords of(String question) {
        List<String> words = new ArrayList<>();
        String read = question.substring(0, Math.min(question.length(), LONGEST));
        for (String word : read.toLowerCase(Locale.ROOT).strip().split("[\\s,;]+")) {
            if (!word.isEmpty() && words.size() < MOST && !words.contains(word)) {
                words.add(word);
            }
        }
        return new SearchWords(words);
    }

    public boolean isEmpty() {
        return words.isEmpty();
    }

    /** Which of the words a text in lower case has, as bits. */
    int in(String lowerCase) {
        int found = 0;
        for (int i = 0; i < words.size(); i++) {
            if (lowerCase.contains(words.get(i))) {
                found |= 1 << i;
            }
        }
        return found;
    }

    /** The bits of all words. */
    int all() {
        return (1 << words.size()) - 1;
    }
}
