package tidybridge.service.gateway;

import java.time.DateTimeException;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import org.jspecify.annotations.Nullable;

/** Times as header fields write them (RFC 9110, 5.6.7). */
final class HttpTimes {

    private static final DateTimeFormatter FIELD = DateTimeFormatter.RFC_1123_DATE_TIME;

    private HttpTimes() {}

    /** A header field's time; null for one that cannot be read, which is then ignored. */
    static @Nullable ZonedDateTime read(@Nullable String text) {
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
    static String write(ZonedDateTime time) {
        return FIELD.format(time.withZoneSameInstant(ZoneOffset.UTC));
    }
}
