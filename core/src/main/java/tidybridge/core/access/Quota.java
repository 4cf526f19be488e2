package tidybridge.core.access;

import java.time.Duration;

/**
 * How often, and how much at a time, somebody may call. Immutable and thread-safe.
 *
 * @param calls how many may begin in each window; 0 for any number
 * @param per how long a window is; windows begin at whole multiples of it, counted from midnight UTC
 * @param concurrent how many may be under way at a time; 0 for any number
 * @param together true when all callers share it, false when each of them has it
 */
public record Quota(long calls, Duration per, int concurrent, boolean together) {

    /** How long a window is when nothing is said. */
    public static final Duration USUALLY_PER = Duration.ofMinutes(1);

    /** The longest window. */
    public static final Duration LONGEST_PER = Duration.ofHours(24);

    /** The most calls in a window. */
    public static final int MOST_CALLS = 100_000_000;

    /** The most calls at a time. */
    public static final int MOST_CONCURRENT = 10_000;

    /** True for a window that begins at the same moments every day. */
    public static boolean isWindow(Duration per) {
        long seconds = per.toSeconds();
        return per.equals(Duration.ofSeconds(seconds)) && seconds > 0 && LONGEST_PER.toSeconds() % seconds == 0;
    }

    /** {@code 1000 calls in 60 s, 10 at a time}, for people. */
    @Override
    public String toString() {
        String often = calls == 0 ? "" : calls + " calls in " + per.toSeconds() + " s";
        String much = concurrent == 0 ? "" : concurrent + " at a time";
        return often
                + (often.isEmpty() || much.isEmpty() ? "" : ", ")
                + much
                + (together ? ", all callers together" : "");
    }
}
