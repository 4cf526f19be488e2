package tidybridge.core.reference;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.compare.Effect;

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

    /** How many differences of one event are told: anybody may ask for the news, and a page must not cost more than a reference does. */
    public static final int MOST_DIFFERENCES = 50;

    public ModuleNews {
        live = List.copyOf(live);
        events = events.stream().limit(MOST).map(Event::bounded).toList();
    }

    /** What happened. */
    public enum Kind {
        PUBLISHED,
        LIVE_AGAIN,
        RETIRED,
        /** Its owner says something. */
        ANNOUNCED
    }

    /**
     * One event.
     *
     * @param id never that of another event of any module
     * @param address {@code moorings/v1}; of what its owner says the module's name
     * @param headline of what its owner says; null for everything else
     * @param version what is live since; null when nothing is
     * @param comparedWith the version that callers knew before; null for none
     * @param differences what they meet since
     * @param untold how many more differences there are
     * @param note what its author says; null for nothing
     * @param reason why callers must live with what breaks, or why it is gone back to or retired; null where nobody had to say
     */
    public record Event(
            String id,
            Kind kind,
            String address,
            @Nullable String headline,
            @Nullable String version,
            Instant at,
            @Nullable String comparedWith,
            List<DifferenceNote> differences,
            int untold,
            @Nullable String note,
            @Nullable String reason) {

        /** What an owner says of a module. */
        public static Event announced(String id, String module, String headline, String words, Instant at) {
            return new Event(id, Kind.ANNOUNCED, module, headline, null, at, null, List.of(), 0, words, null);
        }

        public Event {
            differences = List.copyOf(differences);
        }

        /** The same with those differences only that callers can tell, and so many at most; the gravest come first. */
        Event bounded() {
            List<DifferenceNote> told = differences.stream()
                    .filter(difference -> !difference.effect().equals(Effect.INTERNAL.label()))
                    .toList();
            int most = Math.min(told.size(), MOST_DIFFERENCES);
            return new Event(
                    id,
                    kind,
                    address,
                    headline,
                    version,
                    at,
                    comparedWith,
                    told.subList(0, most),
                    untold + told.size() - most,
                    note,
                    reason);
        }

        /** {@code 1.2.0 published}, for people. */
        public String title() {
            return switch (kind) {
                case PUBLISHED -> address + ": " + version + " was published";
                case LIVE_AGAIN -> address + ": " + version + " is live again";
                case RETIRED -> address + " was retired";
                case ANNOUNCED -> address + ": " + headline;
            };
        }
    }

    /** When something happened last; empty news are as old as can be. */
    public Instant updated() {
        return events.isEmpty() ? Instant.EPOCH : events.getFirst().at();
    }
}
