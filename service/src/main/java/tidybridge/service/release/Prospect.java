package tidybridge.service.release;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.Comparison;
import tidybridge.core.compare.Effect;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.Version;
import tidybridge.records.Release;
import tidybridge.records.ReleaseEntry;
import tidybridge.service.live.TextCompiler;

/**
 * What publishing a compiled module would mean.
 *
 * @param contract what it promises
 * @param live what it would take the place of; null when nothing is live under its major version
 * @param base what it is compared with: what is live, or else the newest release of its major version or of an earlier one; null for the
 *     first release of all
 * @param comparison null when nothing is known of what the base promised
 * @param highest the highest version that was published under its major version; null for the first
 * @param highestMajor of all that was published of the module, and its own
 * @param taken whether something was published under its version before
 */
public record Prospect(
        TextCompiler.Compiled compiled,
        Contract contract,
        @Nullable Release live,
        @Nullable ReleaseEntry base,
        @Nullable Comparison comparison,
        @Nullable Version highest,
        int highestMajor,
        Taken taken) {

    /** Whether its version was published before. */
    public enum Taken {
        FREE,
        BY_THE_SAME,
        BY_ANOTHER
    }

    public Version version() {
        return contract.version();
    }

    /** True when callers of the base meet it under the address they know. */
    public boolean staysUnderMajor() {
        return base != null && base.version().major() == version().major();
    }

    /** True when callers of what it takes the place of are let down. */
    public boolean breaks() {
        return staysUnderMajor() && comparison != null && comparison.isBreaking();
    }

    /** The differences as they are kept; none when it is compared with nothing. */
    public Optional<Comparison> compared() {
        return Optional.ofNullable(comparison);
    }

    /** The version it should have, by semantic versioning: its own when that is high enough. */
    public Version next() {
        return breaks() ? new Version(highestMajor + 1, 0, 0) : nextUnderMajor();
    }

    /** The version it should have when it stays under its major version although it breaks something. */
    Version nextUnderMajor() {
        if (base == null || !staysUnderMajor()) {
            return version();
        }
        Version least = highest == null ? version() : Effect.INTERNAL.after(highest);
        Version wanted = effectUnderMajor().after(base.version());
        Version next = wanted.compareTo(least) > 0 ? wanted : least;
        return version().compareTo(next) >= 0 ? version() : next;
    }

    private Effect effectUnderMajor() {
        return compared()
                .flatMap(Comparison::effect)
                .map(worst -> worst == Effect.BREAKING ? Effect.SAFE : worst)
                .orElse(Effect.INTERNAL);
    }
}
