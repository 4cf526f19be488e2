package tidybridge.core.definition;

import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * What a caller is told when something is refused.
 *
 * @param code what programs know it by, stable over its messages; unique among those of the operation
 * @param status from 400 to 599
 * @param message a sentence for the caller, with {@code {field}} for a field of the row that is to blame; null for the usual one
 * @param field the parameter to blame; null when none is
 */
public record RefusalRule(
        String code,
        int status,
        @Nullable String message,
        @Nullable String field,
        Place place) {

    private static final int LONGEST_CODE = 63;

    /** The code of a refusal that says none, by what is refused: {@code booking_lasts} is {@code booking-lasts}. */
    public static String code(String name) {
        String word =
                name.toLowerCase(Locale.ROOT).replaceAll("[^a-z0-9]+", "-").replaceAll("^-|-$", "");
        String code = word.isEmpty() || Character.isDigit(word.charAt(0)) ? "condition-" + word : word;
        return code.length() <= LONGEST_CODE ? code : code.substring(0, LONGEST_CODE);
    }
}
