package tidybridge.core.definition;

import tidybridge.core.text.Place;

/** A field a collection is ordered by; written as {@code name} or {@code name desc}. */
public record OrderKey(String field, boolean descending, Place place) {}
