package tidybridge.service.gateway;

import java.time.DateTimeException;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Times as header fields write them (RFC 9110, 5.6.7). */
final class HttpTimes {

    /** IMF-fixdate, the one form that is written: two digits for the day too. */
    private static final DateTimeFormatter FIELD = DateTimeFormatter.ofPattern(
                    "EEE, dd MMM yyyy HH:mm:ss 'GMT'", Locale.US)
            .withZone(ZoneOffset.UTC);

    /** Those that are read: the same with one digit, and the two obsolete ones. */
    private static final List<DateTimeFormatter> READ = List.of(
            FIELD,
            DateTimeFormatter.RFC_1123_DATE_TIME,
            new DateTimeFormatterBuilder()
                    .appendPattern("EEEE, dd-MMM-")
                    .appendValueReduced(ChronoField.YEAR, 2, 2, 1980)
                    .appendPattern(" HH:mm:ss 'GMT'")
                    .toFormatter(Locale.US)
                    .withZone(ZoneOffset.UTC),
            DateTimeFormatter.ofPattern("EEE MMM ppd HH:mm:ss yyyy", Locale.US).withZone(ZoneOffset.UTC));

    private HttpTimes() {}

    /** A header field's time; null for one that cannot be read, which is then ignored. */
    static @Nullable ZonedDateTime read(@Nullable String text) {
        if (text == null) {
            return null;
        }
        for (DateTimeFormatter form : READ) {
            try {
                return ZonedDateTime.parse(text.strip(), form);
            } catch (DateTimeException e) {
                // perhaps the next
            }
        }
        return null;
    }

    /** {@code Thu, 01 May 2031 12:30:00 GMT} */
    static String write(ZonedDateTime time) {
        return FIELD.format(time.withZoneSameInstant(ZoneOffset.UTC));
    }
}
