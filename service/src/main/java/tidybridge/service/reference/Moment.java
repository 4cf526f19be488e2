package tidybridge.service.reference;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.run.Refusal;

/** Moments as people read and write them, in UTC. */
public final class Moment {

    private static final DateTimeFormatter DAY =
            DateTimeFormatter.ofPattern("d MMMM yyyy", Locale.ENGLISH).withZone(ZoneOffset.UTC);
    private static final DateTimeFormatter MINUTE = DateTimeFormatter.ofPattern(
                    "d MMMM yyyy, HH:mm 'UTC'", Locale.ENGLISH)
            .withZone(ZoneOffset.UTC);

    private Moment() {}

    /** {@code 27 November 2026} */
    public static String day(Instant moment) {
        return DAY.format(moment);
    }

    /** {@code 27 November 2026, 14:03 UTC} */
    public static String minute(Instant moment) {
        return MINUTE.format(moment);
    }

    /** The last day on which something holds that ends at a moment. */
    public static String lastDay(Instant end) {
        return DAY.format(end.minusMillis(1));
    }

    /**
     * The end of a day that a form names.
     *
     * @return null for an empty text
     */
    static @Nullable Instant endOf(String day) throws Refusal {
        if (day.isBlank()) {
            return null;
        }
        try {
            return LocalDate.parse(day.strip())
                    .plusDays(1)
                    .atStartOfDay(ZoneOffset.UTC)
                    .toInstant();
        } catch (DateTimeParseException e) {
            throw new Refusal(ProblemKind.BAD_INPUT, "A day is written as 2031-04-30.");
        }
    }
}
