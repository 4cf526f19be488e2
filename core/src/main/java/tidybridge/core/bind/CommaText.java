package tidybridge.core.bind;

import java.util.ArrayList;
import java.util.List;

/** Texts in one with commas between them; a comma or a backslash inside of one has a backslash before it. */
final class CommaText {

    private CommaText() {}

    /**
     * The texts.
     *
     * @param most how many are looked for at most; what is behind them is left out
     */
    static List<String> split(String text, int most) {
        List<String> parts = new ArrayList<>();
        StringBuilder part = new StringBuilder();
        for (int i = 0; i <= text.length() && parts.size() < most; i++) {
            char c = i == text.length() ? ',' : text.charAt(i);
            boolean escapes = c == '\\' && i + 1 < text.length() && ",\\".indexOf(text.charAt(i + 1)) >= 0;
            if (escapes) {
                part.append(text.charAt(++i));
            } else if (c == ',') {
                parts.add(part.toString());
                part.setLength(0);
            } else {
                part.append(c);
            }
        }
        return parts;
    }
}
