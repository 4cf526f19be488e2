package tidybridge.core.typed;

import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/** Makes names that a language takes out of names that people wrote, each only once. Not thread-safe. */
final class Identifiers {

    private static final Pattern WORDS = Pattern.compile("[^A-Za-z0-9]+");

    private final Set<String> taken = new HashSet<>();

    /** @param reserved what no name may be */
    Identifiers(Set<String> reserved) {
        taken.addAll(reserved);
    }

    /** {@code BerthOfDay} for {@code berth-of_day}, or with a number behind it where that is taken. */
    String type(String name) {
        return free(pascal(name));
    }

    /** {@code ifMatch} for {@code If-Match}, or with a number behind it where that is taken. */
    String member(String name) {
        String pascal = pascal(name);
        return free(pascal.substring(0, 1).toLowerCase(Locale.ROOT) + pascal.substring(1));
    }

    /** A name as it is, or with a number behind it where that is taken. */
    String free(String name) {
        String free = name;
        for (int i = 2; !taken.add(free); i++) {
            free = name + i;
        }
        return free;
    }

    private static String pascal(String name) {
        StringBuilder pascal = new StringBuilder();
        for (String word : WORDS.split(name)) {
            if (!word.isEmpty()) {
                pascal.append(word.substring(0, 1).toUpperCase(Locale.ROOT)).append(word.substring(1));
            }
        }
        boolean letter = !pascal.isEmpty() && Character.isLetter(pascal.charAt(0));
        return letter ? pascal.toString() : "X" + pascal;
    }
}
