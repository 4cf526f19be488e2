package tidybridge.service.release;

import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.Comparison;
import tidybridge.core.compare.Effect;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.Version;
import tidybridge.records.Release;
import tidybridge.records.ReleaseEntry;
import tidybridge.records.Review;
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
 * @param approval how far the approval is that it needs
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
        Approval approval,
        Taken taken) {

    /** Whether its version was published before. */
    public enum Taken {
        FREE,
        BY_THE_SAME,
        BY_ANOTHER
    }

    /**
     * The approval of a second person.
     *
     * @param needed whether it may not be published without: its own text, what is live of the module, or its highest version asks for it.
     *     What was published before needs none
     * @param last what was asked last for its text; null for nothing
     */
    public record Approval(boolean needed, @Nullable Review last) {}

    /** The approval with which it may be published; null when there is none. */
    public @Nullable Review approved() {
        Review last = approval.last();
        return last != null && last.state() == Review.State.APPROVED && isOfWhatIsLive(last) ? last : null;
    }

    /** True when what it would take the place of is still what was live when the review was asked for. */
    public boolean isOfWhatIsLive(Review review) {
        return Objects.equals(review.replaces(), live == null ? null : live.id());
    }

    /** What whoever publishes says of it; where they say nothing, what was said to whoever approved it. */
    public Publishing.Words words(Publishing.Words said) {
        Review reviewed = approved();
        return reviewed == null
                ? said
                : new Publishing.Words(
                        said.note() == null ? reviewed.note() : said.note(),
                        said.breaking() == null ? reviewed.breaksBecause() : said.breaking(),
                        said.from() == null ? reviewed.cameFrom() : said.from());
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
