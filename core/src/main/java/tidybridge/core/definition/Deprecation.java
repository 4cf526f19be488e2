package tidybridge.core.definition;

import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * Something callers should stop using.
 *
 * @param ends the day it will be taken away; null while nobody has decided
 */
public record Deprecation(@Nullable LocalDate ends) {}
