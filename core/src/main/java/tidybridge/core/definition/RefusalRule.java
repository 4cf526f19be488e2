package tidybridge.core.definition;

import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * What a caller is told when something is refused.
 *
 * @param status from 400 to 599
 * @param message a sentence for the caller, with {@code {field}} for a field of the row that is to blame; null for the usual one
 * @param field the parameter to blame; null when none is
 */
public record RefusalRule(
        int status, @Nullable String message, @Nullable String field, Place place) {}
