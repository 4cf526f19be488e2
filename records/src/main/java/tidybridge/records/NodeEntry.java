package tidybridge.records;

import java.time.Duration;
import java.time.Instant;
import java.util.List;

/**
 * A service that runs over these records, as it told of itself last.
 *
 * @param id of the process, made anew at each start
 * @param name where it runs, for people
 * @param version of its program
 * @param startedAt by its own clock
 * @param silentFor how long ago it told of itself, by the record store's clock
 * @param liveChange the number of the newest change of what is live that it has taken over; 0 for none
 * @param leaving whether it was told to end
 * @param troubles what it cannot serve as it should
 */
public record NodeEntry(
        String id,
        String name,
        String version,
        Instant startedAt,
        Duration silentFor,
        long liveChange,
        boolean leaving,
        List<Trouble> troubles) {

    /** How many troubles a node tells at most. */
    public static final int MOST_TROUBLES = 50;

    public NodeEntry {
        troubles = List.copyOf(troubles);
    }

    /** The same some time later, in which it did not tell of itself. */
    public NodeEntry silentLonger(Duration more) {
        return new NodeEntry(id, name, version, startedAt, silentFor.plus(more), liveChange, leaving, troubles);
    }

    /**
     * A module that a node cannot serve as it should.
     *
     * @param module {@code moorings/v1}
     * @param words one sentence
     */
    public record Trouble(String module, String words) {}
}
