package tidybridge.service.run;

import java.time.ZonedDateTime;
import org.jspecify.annotations.Nullable;

/**
 * What a caller says about the state they mean to change (RFC 9110, 13.1).
 *
 * @param match null when nothing must be there
 * @param noneMatch null when nothing must be absent
 * @param unmodifiedSince null when no time was told, or none that can be read
 * @param said true when the caller said anything, readable or not
 */
public record StateCondition(
        @Nullable Tags match,
        @Nullable Tags noneMatch,
        @Nullable ZonedDateTime unmodifiedSince,
        boolean said) {

    /** Nothing said. */
    public static final StateCondition NONE = new StateCondition(null, null, null, false);

    /** Some entity tags. */
    @FunctionalInterface
    public interface Tags {

        /**
         * True when they name what is there.
         *
         * @param found whether anything is; {@code *} names it, whatever its tag
         * @param tag null when nothing tells it
         */
        boolean name(boolean found, @Nullable String tag);

        /** True for {@code *}, which names everything. */
        default boolean all() {
            return name(true, null);
        }
    }

    /**
     * True for the state that the caller means.
     *
     * @param found whether anything is there
     * @param tag of what is there; null when nothing is, or nothing tells
     * @param modified when it was changed; null when nothing is there, or nothing tells
     */
    boolean fits(boolean found, @Nullable String tag, @Nullable ZonedDateTime modified) {
        boolean unchanged = match != null
                ? match.name(found, tag)
                : unmodifiedSince == null || !found || modified != null && !modified.isAfter(unmodifiedSince);
        return unchanged && (noneMatch == null || !noneMatch.name(found, tag));
    }

    /** True when some state must be compared. */
    boolean compares() {
        return match != null || noneMatch != null || unmodifiedSince != null;
    }
}
