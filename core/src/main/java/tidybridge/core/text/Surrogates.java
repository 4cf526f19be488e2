package tidybridge.core.text;

/** Finds halves of characters, which no encoding can write (Unicode 3.8, D71 to D75). */
public final class Surrogates {

    private Surrogates() {}

    /** True when a surrogate stands without its other half. */
    public static boolean isLoneIn(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c >= Character.MIN_SURROGATE && c <= Character.MAX_SURROGATE) {
                boolean pair = Character.isHighSurrogate(c)
                        && i + 1 < text.length()
                        && Character.isLowSurrogate(text.charAt(i + 1));
                if (!pair) {
                    return true;
                }
                i++;
            }
        }
        return false;
    }
}
