package tidybridge.core.contract;

import org.jspecify.annotations.Nullable;

/**
 * A condition that an operation refuses by itself.
 *
 * @param code what programs know it by
 * @param message a sentence for callers; null for the usual one
 */
public record RefusalTerms(
        int status, String code, @Nullable String message) {}
