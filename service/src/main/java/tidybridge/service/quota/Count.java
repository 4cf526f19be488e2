package tidybridge.service.quota;

import io.github.bucket4j.Bucket;
import io.github.bucket4j.ConsumptionProbe;
import io.github.bucket4j.TimeMeter;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Quota;
import tidybridge.records.QuotaUses;

/**
 * Calls against one quota, of one caller or of all together, as this service knows them: what it let through itself, and what the others did
 * when it looked last. Thread-safe.
 */
final class Count {

    /** The part of a quota that a service may let through before it tells the others: one in this many. */
    static final int SHARE = 10;

    /** There is no room before the others are told. */
    static final long FULL = -1;

    private final String id;
    private final Quota quota;
    private final TimeMeter time;
    private final @Nullable Bucket bucket;
    private final long mostUntold;
    private final AtomicLong untold = new AtomicLong();
    private final AtomicInteger running = new AtomicInteger();
    private long window;
    private long told;
    private long elsewhere;

    /** @param id what the records call it */
    Count(String id, Quota quota, TimeMeter time) {
        this.id = id;
        this.quota = quota;
        this.time = time;
        this.mostUntold = Math.max(1, quota.calls() / SHARE);
        this.window = window();
        this.bucket = quota.calls() == 0
                ? null
                : Bucket.builder()
                        .addLimit(limit -> limit.capacity(quota.calls())
                                .refillIntervallyAligned(quota.calls(), quota.per(), begin(window + 1)))
                        .withCustomTimePrecision(time)
                        .build();
    }

    private long window() {
        return time.currentTimeNanos() / quota.per().toNanos();
    }

    private Instant begin(long number) {
        return Instant.ofEpochSecond(number * quota.per().toSeconds());
    }

    Quota quota() {
        return quota;
    }

    boolean hasWindow() {
        return bucket != null;
    }

    /**
     * Asks for room to let one more call through before the others are told.
     *
     * @param alone true when there is nobody to tell
     * @return how many calls the others have to be told of besides, or {@link #FULL}
     */
    long reserve(boolean alone) {
        long before = untold.get();
        while (alone || before < mostUntold) {
            if (untold.compareAndSet(before, before + 1)) {
                return before;
            }
            before = untold.get();
        }
        return FULL;
    }

    /**
     * How a call was counted.
     *
     * @param left how many calls may follow in the window
     * @param nanosToNext until the next window
     */
    record Taken(boolean isLet, long left, long nanosToNext) {}

    /** Counts a call for which there is room, if one is left in the window. */
    Taken take() {
        Bucket left = bucket;
        if (left == null) {
            throw new IllegalStateException("a quota without a window counts no calls");
        }
        ConsumptionProbe probe = left.tryConsumeAndReturnRemaining(1);
        if (!probe.isConsumed()) {
            untold.decrementAndGet();
            return none();
        }
        return new Taken(true, probe.getRemainingTokens(), untilNext().toNanos());
    }

    /** A call that was not let through. */
    Taken none() {
        return new Taken(false, 0, untilNext().toNanos());
    }

    /** Takes a counted call back, because something else refused it. */
    void giveBack() {
        if (bucket != null) {
            bucket.addTokens(1);
            untold.decrementAndGet();
        }
    }

    /** Begins a call; false when as many as may be are under way. */
    boolean enter() {
        if (running.incrementAndGet() > quota.concurrent()) {
            running.decrementAndGet();
            return false;
        }
        return true;
    }

    void leave() {
        running.decrementAndGet();
    }

    int running() {
        return running.get();
    }

    /** How many calls are left in the window, as far as is known here. */
    long left() {
        return bucket == null ? 0 : Math.max(0, bucket.getAvailableTokens());
    }

    /** What the others must be told. It counts as untold until {@link #heard}. */
    QuotaUses.Use tell() {
        long now = window();
        if (now != window) {
            window = now;
            told = 0;
            elsewhere = 0;
        }
        return new QuotaUses.Use(id, begin(window), quota.per(), untold.get());
    }

    /**
     * The others were told: takes over what all services let through together, and lets the fewer through here.
     *
     * @return true when there is more to be told
     */
    boolean heard(QuotaUses.Use mine, long total) {
        told += mine.count();
        long others = total - told - elsewhere;
        if (bucket != null && others > 0 && window == window()) {
            elsewhere += others;
            // the window ends at none left, and what was let through beyond is no debt of the next one
            long left = Math.min(others, bucket.getAvailableTokens());
            if (left > 0) {
                bucket.consumeIgnoringRateLimits(left);
            }
        }
        return untold.addAndGet(-mine.count()) != 0;
    }

    Duration untilNext() {
        long nanos = quota.per().toNanos();
        return Duration.ofNanos(nanos - time.currentTimeNanos() % nanos);
    }
}
