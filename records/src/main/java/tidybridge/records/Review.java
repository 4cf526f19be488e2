package tidybridge.records;

import java.time.Instant;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Version;

/**
 * A text that somebody asks a second person to approve, and what came of it; the text itself is read apart.
 *
 * @param hash of the text, SHA-256 in hexadecimal
 * @param replaces the release that was live under its major version when it was asked for; null for none
 * @param comparedWith the version its contract was compared with; null for the first of all
 * @param differences what came of that, as JSON; null for the first of all, and where it was not asked for
 * @param findings what compiling it found, as JSON; null where it was not asked for
 * @param note what its author says of it; null for nothing
 * @param breaksBecause why it breaks what was promised under the same major version; null when it does not
 * @param cameFrom the release of another service that it is carried from; null for none
 * @param decision null while nobody decided
 */
public record Review(
        long id,
        String module,
        Version version,
        String hash,
        @Nullable Long replaces,
        @Nullable Version comparedWith,
        @Nullable String differences,
        @Nullable String findings,
        @Nullable String note,
        @Nullable String breaksBecause,
        @Nullable String cameFrom,
        String askedBy,
        Instant askedAt,
        State state,
        @Nullable Decision decision) {

    /** How far it is. */
    public enum State {
        /** Nobody has decided yet. */
        OPEN,
        /** It may be published. */
        APPROVED,
        /** It may not. */
        DECLINED,
        /** Nobody asks any more: it was taken back, or asked for anew. */
        WITHDRAWN,
        /** It was approved, and is published. */
        PUBLISHED;

        /** The word for it in outputs and in the store. */
        public String label() {
            return name().toLowerCase(Locale.ROOT);
        }

        static State of(String label) {
            return valueOf(label.toUpperCase(Locale.ROOT));
        }
    }

    /**
     * What somebody decided.
     *
     * @param words what they said; null for nothing
     */
    public record Decision(String by, Instant at, @Nullable String words) {}

    /** {@code moorings 1.3.0} */
    public String label() {
        return module + " " + version;
    }
}
