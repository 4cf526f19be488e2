package tidybridge.service.run;

import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;

/** Times as databases write them. */
final class DatabaseTimes {

    private DatabaseTimes() {}

    /** {@code 2031-05-01 12:30:00.123}, in UTC and whole seconds, as HTTP tells times; null when there is none. */
    static @Nullable ZonedDateTime read(@Nullable String text) {
        if (text == null) {
            return null;
        }
        try {
            return LocalDateTime.parse(text.replace(' ', 'T'))
                    .atZone(ZoneOffset.UTC)
                    .truncatedTo(ChronoUnit.SECONDS);
        } catch (DateTimeException e) {
            return null;
        }
    }
}
