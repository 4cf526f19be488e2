package tidybridge.core.directory;

import org.jspecify.annotations.Nullable;

/**
 * A place of a module's reference where some of the words are.
 *
 * @param label of the operation, {@code GET /berths}
 * @param id what the reference calls it
 * @param name of the field or parameter; null for the operation itself
 * @param about what is said of it; null for nothing
 */
public record Hit(
        Kind kind,
        String label,
        String id,
        @Nullable String name,
        @Nullable String about) {

    /** What was found. */
    public enum Kind {
        OPERATION,
        FIELD,
        PARAMETER
    }
}
