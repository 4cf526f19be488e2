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

        /** True when they name this one, or whatever there is; nothing is named by none. */
        boolean name(@Nullable String tag);
    }

    /**
     * True for the state that the caller means.
     *
     * @param tag of what is there; null when nothing is, or nothing tells
     * @param modified when it was changed; null when nothing is there, or nothing tells
     */
    boolean fits(@Nullable String tag, @Nullable ZonedDateTime modified) {
        boolean unchanged = match != null
                ? match.name(tag)
                : unmodifiedSince == null || modified == null || !modified.isAfter(unmodifiedSince);
        return unchanged && (noneMatch == null || !noneMatch.name(tag));
    }

    /** True when some state must be compared. */
    boolean compares() {
        return match != null || noneMatch != null || unmodifiedSince != null;
    }
}
