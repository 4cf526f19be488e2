package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Somebody signed in, on a browser or a command line.
 *
 * @param person null for whoever came by the administrator's token or its link
 * @param secretHash SHA-256, hexadecimal
 * @param usedAt when it was used last, a few seconds late
 * @param address where the sign-in came from
 */
public record Session(
        String id,
        @Nullable String person,
        Kind kind,
        String secretHash,
        Instant openedAt,
        Instant endsAt,
        Instant usedAt,
        String address) {

    /** Where it was opened. */
    public enum Kind {
        CONSOLE,
        COMMAND_LINE
    }
}
