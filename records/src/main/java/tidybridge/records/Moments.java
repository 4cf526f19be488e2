package tidybridge.records;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;

/** Moments as the store keeps them: UTC, in milliseconds. */
final class Moments {

    private Moments() {}

    static LocalDateTime stored(Instant moment) {
        return LocalDateTime.ofInstant(moment.truncatedTo(ChronoUnit.MILLIS), ZoneOffset.UTC);
    }

    static @Nullable LocalDateTime storedOptional(@Nullable Instant moment) {
        return moment == null ? null : stored(moment);
    }

    static Instant read(LocalDateTime stored) {
        return stored.toInstant(ZoneOffset.UTC);
    }

    static @Nullable Instant readOptional(@Nullable LocalDateTime stored) {
        return stored == null ? null : read(stored);
    }
}
