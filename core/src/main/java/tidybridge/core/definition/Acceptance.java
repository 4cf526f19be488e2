package tidybridge.core.definition;

import tidybridge.core.text.Place;

/**
 * A finding that the text accepts, with the reason.
 *
 * @param code the finding's label
 */
public record Acceptance(String code, String reason, Place place) {}
