package tidybridge.demo;

import java.time.Duration;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;

/**
 * Waits for something that happens by itself. Time is an outer bound only: a machine that is busy with other things does not reach it, and
 * what never happens does.
 */
public final class Until {

    /** How long anything may take that happens at all. */
    public static final Duration BOUND = Duration.ofSeconds(60);

    private static final long LEAST_PAUSE_MILLIS = 10;
    private static final long LONGEST_PAUSE_MILLIS = 200;

    /** A look may cost what is waited for some of its time, so that whoever waits long looks less often. */
    private static final int PAUSES = 10;

    private Until() {}

    /** A look at what may have happened. */
    @FunctionalInterface
    public interface Look<T> {
        T look() throws Exception;
    }

    /** The first value that is as expected. */
    public static <T> T seen(Look<T> look, Predicate<? super T> expected) throws Exception {
        long begun = System.nanoTime();
        T seen = look.look();
        while (!expected.test(seen)) {
            long waited = System.nanoTime() - begun;
            if (waited > BOUND.toNanos()) {
                throw new AssertionError("After " + BOUND.toSeconds() + " s it is still " + seen);
            }
            TimeUnit.MILLISECONDS.sleep(Math.clamp(
                    TimeUnit.NANOSECONDS.toMillis(waited) / PAUSES, LEAST_PAUSE_MILLIS, LONGEST_PAUSE_MILLIS));
            seen = look.look();
        }
        return seen;
    }

    /** The first value there is. */
    public static <T> T there(Look<T> look) throws Exception {
        return seen(look, value -> value != null);
    }

    /** Goes on once it holds. */
    public static void holds(Look<Boolean> look) throws Exception {
        seen(look, value -> value);
    }
}
