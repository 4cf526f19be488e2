package tidybridge.core.reference;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.DifferenceNote;

/**
 * What happened to a module, for those who call it. Only data; immutable and thread-safe.
 *
 * @param module its name
 * @param live {@code moorings/v1} and the others that are served now
 * @param events the newest first, {@link #MOST} at most
 */
public record ModuleNews(String module, String title, List<String> live, List<Event> events) {

    /** How many events are told. */
    public static final int MOST = 100;

    public ModuleNews {
        live = List.copyOf(live);
        events = events.size() > MOST ? List.copyOf(events.subList(0, MOST)) : List.copyOf(events);
    }

    /** What happened. */
    public enum Kind {
        PUBLISHED,
        LIVE_AGAIN,
        RETIRED
    }

    /**
     * One event.
     *
     * @param id never that of another event of any module
     * @param address {@code moorings/v1}
     * @param version what is live since; null when nothing is
     * @param comparedWith the version that callers knew before; null for none
     * @param differences what they meet since
     * @param note what its author says; null for nothing
     * @param reason why callers must live with what breaks, or why it is gone back to or retired; null where nobody had to say
     */
    public record Event(
            String id,
            Kind kind,
            String address,
            @Nullable String version,
            Instant at,
            @Nullable String comparedWith,
            List<DifferenceNote> differences,
            @Nullable String note,
            @Nullable String reason) {

        public Event {
            differences = List.copyOf(differences);
        }

        /** {@code 1.2.0 published}, for people. */
        public String title() {
            return switch (kind) {
                case PUBLISHED -> address + ": " + version + " was published";
                case LIVE_AGAIN -> address + ": " + version + " is live again";
                case RETIRED -> address + " was retired";
            };
        }
    }

    /** When something happened last; empty news are as old as can be. */
    public Instant updated() {
        return events.isEmpty() ? Instant.EPOCH : events.getFirst().at();
    }
}
