package tidybridge.core.compare;

import org.jspecify.annotations.Nullable;

/**
 * One difference between two contracts.
 *
 * @param operation {@code GET /berths}, as the later contract calls it where both have it; null for the module as a whole
 * @param words one sentence for people
 */
public record Difference(DifferenceKind kind, @Nullable String operation, String words) {

    public Effect effect() {
        return kind.effect();
    }

    /** The sentence with the operation before it. */
    public String sentence() {
        return operation == null ? words : operation + ": " + words;
    }
}
