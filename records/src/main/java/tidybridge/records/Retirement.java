package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A major version under which nothing is live any more.
 *
 * @param release what was live last
 * @param reason why it was retired; null where nobody had to say
 */
public record Retirement(
        String module, int major, long release, @Nullable String reason, Instant at) {

    /** {@code moorings/v1} */
    public String identity() {
        return module + "/v" + major;
    }
}
