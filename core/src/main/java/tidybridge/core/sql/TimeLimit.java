package tidybridge.core.sql;

import java.time.Duration;

/**
 * How long a statement may run, which its source may shorten by what it is run for.
 *
 * @param time above zero
 */
public record TimeLimit(Duration time, Purpose purpose) {

    /** Of a statement that reads no whole collection. */
    public static TimeLimit of(Duration time) {
        return new TimeLimit(time, Purpose.PAGE);
    }
}
