package tidybridge.records;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How a module stands at one moment, as somebody needs to know it who is about to publish.
 *
 * @param all its releases, the newest first, without their differences
 * @param live what is live under the major version in question; null for nothing
 * @param review what was asked last for the text in question; null for nothing
 * @param released what was released under the version in question; null for nothing
 */
public record Standing(
        List<ReleaseEntry> all,
        @Nullable Release live,
        @Nullable Release released,
        @Nullable Review review) {
    public Standing {
        all = List.copyOf(all);
    }
}
