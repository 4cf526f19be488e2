package tidybridge.engine;

import java.time.Duration;
import java.util.function.BooleanSupplier;

/**
 * How long somebody waits for a database that may not answer. Where this machine itself had no time of its processors to spare, it may be
 * this side that hears late, and it is waited for longer: a service that has just started on a busy machine would refuse its first calls
 * otherwise. For one wait, by one thread.
 */
public final class Patience {

    private static final Duration LONGEST = Duration.ofSeconds(3);

    private final Duration half;
    private final BooleanSupplier wasBusy;
    private int waited;

    /**
     * Begins a wait.
     *
     * @param usual how long it is where there are processors to spare, and at least
     */
    public Patience(Duration usual) {
        this(usual, new Processors(Processors.LINUX)::wereBusy);
    }

    Patience(Duration usual, BooleanSupplier wasBusy) {
        this.half = half(usual);
        this.wasBusy = wasBusy;
    }

    static Duration half(Duration usual) {
        return Duration.ofNanos(usual.toNanos() / 2);
    }

    /** How long to wait before {@link #goesOn} is asked: half of the usual time, so that the processors are looked at only by those who wait for long. */
    public Duration half() {
        return half;
    }

    /**
     * Tells whether to wait for another half.
     *
     * @param mayBeLate false where it is known that the database is to blame: then it is the usual time
     */
    public boolean goesOn(boolean mayBeLate) {
        waited++;
        if (waited == 1) {
            // what they did from here on counts
            wasBusy.getAsBoolean();
            return true;
        }
        return mayBeLate && half.multipliedBy(waited).compareTo(LONGEST) < 0 && wasBusy.getAsBoolean();
    }
}
