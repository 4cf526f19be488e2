package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Version;

/**
 * That another release went live under a major version, or none is any more.
 *
 * @param version null when none is live since
 * @param replaced the version that was live before; null for none
 * @param differences from what was promised before, as JSON; null where that is not known, and where nothing is live since
 * @param reason why; null where nobody had to say
 */
public record LiveChange(
        long id,
        String module,
        int major,
        @Nullable Version version,
        @Nullable Version replaced,
        Kind kind,
        @Nullable String differences,
        @Nullable String reason,
        String by,
        Instant at) {

    /** How it came about. */
    public enum Kind {
        /** A new release went live. */
        PUBLISH,
        /** An earlier release went live again. */
        REVERT,
        /** Nothing is served under the major version any more. */
        RETIRE
    }
}
