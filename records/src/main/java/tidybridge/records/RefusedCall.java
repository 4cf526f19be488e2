package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A call that was not let through. It holds no value of the caller's.
 *
 * @param requestId as the caller was told it
 * @param module {@code moorings/v1}; null when the call led to none
 * @param operation {@code GET /berths/{berth_no}}; null when the call led to none
 * @param who the caller's name; null for somebody unknown
 * @param code of the problem
 * @param reason why, in a sentence; the caller may have been told less
 */
public record RefusedCall(
        Instant at,
        String requestId,
        @Nullable String module,
        @Nullable String operation,
        @Nullable String who,
        String address,
        int status,
        String code,
        String reason) {}
