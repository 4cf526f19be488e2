package tidybridge.core.definition;

import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * Something callers should stop using.
 *
 * @param since the day from which it counts as such; null for the day of the release that says so
 * @param ends the day from which it is gone, in UTC; null while nobody has decided
 * @param successor what takes its place: of a module {@code moorings/v2}, of an operation {@code /stays} or {@code moorings/v2/stays}, of
 *     anything else a name; null for nothing
 */
public record Deprecation(
        @Nullable LocalDate since,
        @Nullable LocalDate ends,
        @Nullable String successor) {

    /** Something whose end nobody has decided. */
    public static final Deprecation UNDATED = new Deprecation(null, null, null);

    /** The sentence for the reference. */
    public String words() {
        return "Deprecated"
                + (since == null ? "" : " since " + since)
                + (ends == null ? "" : ", gone on " + ends)
                + (successor == null ? "." : "; use " + successor + " in its place.");
    }
}
