package tidybridge.core.bind;

import java.util.regex.Pattern;

/**
 * Makes {@code $} in a pattern mean the end of the text and nothing else, as in JSON Schema's dialect (ECMA-262). By itself Java's lets a
 * line break stand behind it.
 */
final class EndAnchors {

    private EndAnchors() {}

    static Pattern strict(Pattern pattern) {
        String text = pattern.pattern();
        StringBuilder strict = new StringBuilder(text.length() + 4);
        int classes = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '\\' && i + 1 < text.length()) {
                int end = text.charAt(i + 1) == 'Q' ? quoted(text, i + 2) : i + 2;
                strict.append(text, i, end);
                i = end - 1;
                continue;
            }
            classes += c == '[' ? 1 : c == ']' && classes > 0 ? -1 : 0;
            if (c == '$' && classes == 0) {
                strict.append("\\z");
            } else {
                strict.append(c);
            }
        }
        return Pattern.compile(strict.toString(), pattern.flags());
    }

    /** Behind the end of what {@code \Q} begins. */
    private static int quoted(String text, int from) {
        int end = text.indexOf("\\E", from);
        return end < 0 ? text.length() : end + 2;
    }
}
