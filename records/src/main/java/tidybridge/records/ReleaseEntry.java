package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Version;

/**
 * A release as a list of many shows it, without its text and its contract.
 *
 * @param hash of the text, SHA-256 in hexadecimal
 * @param asksReview whether its text asks for a second person before a module of its name is published
 * @param live whether it is served now
 * @param comparedWith the version that its contract was compared with; null when it was compared with none
 * @param differences what came of that, as JSON; null when it was compared with none, and where it was not asked for
 * @param note what its author says of it; null for nothing
 * @param breaksBecause why it breaks what was promised under the same major version; null when it does not
 * @param cameFrom the release of another service that it was carried from; null for none
 */
public record ReleaseEntry(
        long id,
        String module,
        Version version,
        String hash,
        String publishedBy,
        Instant publishedAt,
        boolean asksReview,
        boolean live,
        @Nullable Version comparedWith,
        @Nullable String differences,
        @Nullable String note,
        @Nullable String breaksBecause,
        @Nullable String cameFrom) {}
