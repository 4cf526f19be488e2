package tidybridge.core.text;

import java.util.Collection;
import java.util.Locale;
import java.util.Optional;

/** Finds the known name a mistyped one was most likely meant to be. */
public final class Nearest {

    private Nearest() {}

    /** The known name within a third of the word's length in edits (at least 2), ignoring case; empty when none is. */
    public static Optional<String> to(String word, Collection<String> known) {
        int best = Math.max(2, word.length() / 3) + 1;
        String found = null;
        for (String candidate : known) {
            if (Math.abs(word.length() - candidate.length()) >= best) {
                continue;
            }
            int distance = distance(word.toLowerCase(Locale.ROOT), candidate.toLowerCase(Locale.ROOT));
            if (distance < best && distance < candidate.length()) {
                best = distance;
                found = candidate;
            }
        }
        return Optional.ofNullable(found);
    }

    /** " Did you mean 'x'?" or an empty text, to be appended to a sentence. */
    public static String hint(String word, Collection<String> known) {
        return to(word, known).map(name -> " Did you mean '" + name + "'?").orElse("");
    }

    /** Edits (insert, delete, replace) between two words; Wagner and Fischer, two rows. */
    private static int distance(String a, String b) {
        int[] previous = new int[b.length() + 1];
        int[] current = new int[b.length() + 1];
        for (int j = 0; j <= b.length(); j++) {
            previous[j] = j;
        }
        for (int i = 1; i <= a.length(); i++) {
            current[0] = i;
            for (int j = 1; j <= b.length(); j++) {
                int replace = previous[j - 1] + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
                current[j] = Math.min(replace, Math.min(previous[j], current[j - 1]) + 1);
            }
            int[] swap = previous;
            previous = current;
            current = swap;
        }
        return previous[b.length()];
    }
}
