package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A text that is being worked on, as it was after one change; the text itself is read apart.
 *
 * @param major the major version it will be published under
 * @param revision counts its changes, from 1
 * @param hash of the text, SHA-256 in hexadecimal
 * @param restoredFrom the earlier revision whose text it has again; null for a text of its own
 */
public record Draft(
        String module,
        int major,
        int revision,
        String hash,
        @Nullable Integer restoredFrom,
        String changedBy,
        Instant changedAt) {

    /** {@code moorings/v1} */
    public String identity() {
        return module + "/v" + major;
    }
}
