package tidybridge.service.access;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import io.github.bucket4j.Bucket;
import io.github.bucket4j.ConsumptionProbe;
import io.github.bucket4j.TimeMeter;
import java.time.Clock;
import java.time.Duration;
import tidybridge.service.capacity.ClockMeter;

/**
 * Slows down whoever tries passwords, without locking out the person whose name they try. Each name has a few tries from each address, and
 * more from all addresses together; tries come back with time. A browser that the person signed in with before has tries of its own, whatever
 * others do. A try that succeeds costs nothing. Thread-safe; each service counts by itself, and keeps a bounded number of names.
 */
final class Tries {

    /** From one address for one name, at once; one comes back every {@link #BACK_FROM_ONE}. */
    static final int FROM_ONE = 5;

    static final Duration BACK_FROM_ONE = Duration.ofSeconds(5);

    /** From everywhere for one name; one comes back every {@link #BACK_FROM_ALL}. */
    static final int FROM_ALL = 50;

    static final Duration BACK_FROM_ALL = Duration.ofSeconds(1);

    private static final int MOST_NAMES = 20_000;
    private static final int NAME_CHARS = 64;

    private final TimeMeter time;
    private final Cache<String, Bucket> fromOne = cache();
    private final Cache<String, Bucket> fromAll = cache();

    Tries(Clock clock) {
        this.time = new ClockMeter(clock);
    }

    private static Cache<String, Bucket> cache() {
        return Caffeine.newBuilder()
                .maximumSize(MOST_NAMES)
                .expireAfterAccess(Duration.ofHours(1))
                .build();
    }

    /** A try that was begun: it counts unless it succeeds. */
    record Try(Bucket one, Bucket all, Duration delay) {

        /** True when it may go on. */
        boolean isAllowed() {
            return delay.isZero();
        }

        void succeeded() {
            one.addTokens(1);
            all.addTokens(1);
        }
    }

    /**
     * Begins a try.
     *
     * @param known true for a browser that the person signed in with before
     */
    Try begin(String name, String address, boolean known) {
        String who = name.length() <= NAME_CHARS ? name : name.substring(0, NAME_CHARS);
        String from = known ? "known" : network(address);
        Bucket one = fromOne.get(who + " " + from, key -> bucket(FROM_ONE, BACK_FROM_ONE));
        Bucket all = known ? bucket(1, BACK_FROM_ALL) : fromAll.get(who, key -> bucket(FROM_ALL, BACK_FROM_ALL));
        ConsumptionProbe probe = one.tryConsumeAndReturnRemaining(1);
        if (!probe.isConsumed()) {
            return new Try(one, all, Duration.ofNanos(probe.getNanosToWaitForRefill()));
        }
        ConsumptionProbe together = all.tryConsumeAndReturnRemaining(1);
        if (!together.isConsumed()) {
            one.addTokens(1);
            return new Try(one, all, Duration.ofNanos(together.getNanosToWaitForRefill()));
        }
        return new Try(one, all, Duration.ZERO);
    }

    /** Whoever has an IPv6 address has a whole network of them. */
    private static String network(String address) {
        int fourth = -1;
        for (int i = 0; i < 4; i++) {
            fourth = address.indexOf(':', fourth + 1);
            if (fourth < 0) {
                return address;
            }
        }
        return address.substring(0, fourth);
    }

    private Bucket bucket(int most, Duration back) {
        return Bucket.builder()
                .addLimit(limit -> limit.capacity(most).refillGreedy(1, back))
                .withCustomTimePrecision(time)
                .build();
    }
}
