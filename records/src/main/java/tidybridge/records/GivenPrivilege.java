package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A privilege that a client application holds beside those of its roles.
 *
 * @param endsAt from when on it no longer does; null for never
 * @param request the number of the request that it was given for; null for none
 */
public record GivenPrivilege(
        String privilege,
        String givenBy,
        Instant givenAt,
        @Nullable Instant endsAt,
        @Nullable Long request) {

    /** True while it is held. */
    public boolean isHeld(Instant now) {
        return endsAt == null || endsAt.isAfter(now);
    }
}
