package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * That somebody did something that others may want to know of later. It holds no secret.
 *
 * @param address where it came from; null for what the service does by itself
 * @param action a word such as {@code set-role}
 * @param subject what it was done to
 * @param detail what was done, for people
 * @param before the state of the subject before, as JSON; null when there was none, or nothing changed
 * @param after the same afterwards
 */
public record AuditEntry(
        Instant at,
        String who,
        @Nullable String address,
        String action,
        String subject,
        String detail,
        @Nullable String before,
        @Nullable String after) {

    /** Something that changes no state that is worth keeping. */
    public AuditEntry(Instant at, String who, @Nullable String address, String action, String subject, String detail) {
        this(at, who, address, action, subject, detail, null, null);
    }

    /** The same with the states of the subject. */
    public AuditEntry changing(@Nullable String stateBefore, @Nullable String stateAfter) {
        return new AuditEntry(at, who, address, action, subject, detail, stateBefore, stateAfter);
    }
}
