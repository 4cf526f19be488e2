package tidybridge.service.gateway;

import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;

/** Times as header fields write them (RFC 9110, 5.6.7). */
final class HttpTimes {

    private static final DateTimeFormatter FIELD = DateTimeFormatter.RFC_1123_DATE_TIME;

    private HttpTimes() {}

    /** A time as the database writes it, {@code 2031-05-01 12:30:00.123}, in UTC and whole seconds; null when there is none. */
    static @Nullable ZonedDateTime ofDatabase(@Nullable String text) {
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

    /** A header field's time; null for one that cannot be read, which is then ignored. */
    static @Nullable ZonedDateTime ofField(@Nullable String text) {
        if (text == null) {
            return null;
        }
        try {
            return ZonedDateTime.parse(text.strip(), FIELD);
        } catch (DateTimeException e) {
            return null;
        }
    }

    /** {@code Thu, 01 May 2031 12:30:00 GMT} */
    static String field(ZonedDateTime time) {
        return FIELD.format(time.withZoneSameInstant(ZoneOffset.UTC));
    }
}
