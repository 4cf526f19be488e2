package tidybridge.core.text;

import java.text.Normalizer;
import java.util.Locale;

/** Names that people gave, in letters and digits that every address and every program takes. */
public final class PlainName {

    private static final int LONGEST = 60;

    private PlainName() {}

    /**
     * A name in lower case, with nothing but letters, digits and what stands between them; empty when none of it is left.
     *
     * @param between what stands for everything else, {@code -} or {@code _}; empty for nothing
     */
    public static String of(String name, String between) {
        String plain = Normalizer.normalize(name.strip().replace("ß", "ss"), Normalizer.Form.NFKD)
                .replaceAll("\\p{M}+", "")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", between)
                .replaceAll("^[_-]+|[_-]+$", "");
        return plain.length() <= LONGEST ? plain : plain.substring(0, LONGEST);
    }
}
