package tidybridge.service.capacity;

import java.time.Duration;
import org.apache.coyote.CloseNowException;

/** Tells a peer who is slow from one who only pretends to go on. Only the time spent waiting for the peer counts. Used by one thread. */
final class Pace {

    /** What must move within {@link #PATIENCE}: no line of today is slower. */
    static final int LEAST_BYTES = 32 * 1024;

    static final Duration PATIENCE = Duration.ofSeconds(5);

    private final long patienceNanos;
    private long waitedNanos;
    private long moved;

    Pace() {
        this(PATIENCE);
    }

    Pace(Duration patience) {
        this.patienceNanos = patience.toNanos();
    }

    /** The peer is too slow to be waited for any longer: its connection ends, without a word in the log. */
    static final class TooSlow extends CloseNowException {
        TooSlow(String sentence) {
            super(sentence);
        }
    }

    /** Counts some bytes that moved, and how long that took. */
    void moved(int bytes, long nanos) throws TooSlow {
        moved += bytes;
        waitedNanos += nanos;
        if (moved >= LEAST_BYTES) {
            moved = 0;
            waitedNanos = 0;
        } else if (waitedNanos > patienceNanos) {
            throw new TooSlow("Only " + moved + " bytes moved in "
                    + Duration.ofNanos(waitedNanos).toSeconds() + " s.");
        }
    }
}
