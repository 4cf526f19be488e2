package tidybridge.core.directory;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Deprecation;

/** What somebody who chooses a module should know of its age. */
public enum ModuleState {
    /** It was published for the first time less than {@link #NEW_FOR} ago. */
    NEW,
    CURRENT,
    /** Callers should not begin to use it. */
    DEPRECATED,
    /** Callers should not begin to use it, and the day is known from which it is gone. */
    ENDING;

    /** How long a module is new. */
    public static final Duration NEW_FOR = Duration.ofDays(30);

    /**
     * The state of a module.
     *
     * @param deprecated null while callers may begin to use it
     * @param first when something was published under its major version for the first time; null where that is not known
     */
    public static ModuleState of(@Nullable Deprecation deprecated, @Nullable Instant first, Instant now) {
        if (deprecated != null && isSince(deprecated.since(), now)) {
            return deprecated.ends() == null ? DEPRECATED : ENDING;
        }
        return first != null && first.isAfter(now.minus(NEW_FOR)) ? NEW : CURRENT;
    }

    private static boolean isSince(@Nullable LocalDate since, Instant now) {
        return since == null || !since.isAfter(LocalDate.ofInstant(now, ZoneOffset.UTC));
    }

    /** The word for it in outputs. */
    public String label() {
        return name().toLowerCase(Locale.ROOT);
    }
}
