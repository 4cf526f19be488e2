package tidybridge.service.capacity;

import io.github.bucket4j.TimeMeter;
import java.time.Clock;
import java.time.Duration;

/** A clock as buckets of tokens read it. */
public record ClockMeter(Clock clock) implements TimeMeter {

    @Override
    public long currentTimeNanos() {
        return Duration.ofMillis(clock.millis()).toNanos();
    }

    @Override
    public boolean isWallClockBased() {
        return true;
    }
}
