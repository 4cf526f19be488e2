package tidybridge.core.finding;

import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * Something noticed in a definition before it runs.
 *
 * @param message one sentence that says what is wrong
 * @param remedy one sentence that says what to do
 * @param operation the operation it concerns, such as {@code GET /berths}; null when it concerns none in particular
 * @param accepted the reason for which the text accepts it; null when it does not
 */
public record Finding(
        Code code,
        Place place,
        String message,
        String remedy,
        @Nullable String operation,
        @Nullable String accepted) {

    public Severity severity() {
        return code.severity();
    }

    public boolean isError() {
        return severity() == Severity.ERROR;
    }

    public boolean isAccepted() {
        return accepted != null;
    }

    Finding acceptedFor(String reason) {
        return new Finding(code, place, message, remedy, operation, reason);
    }
}
