package tidybridge.core.condition;

import org.jspecify.annotations.Nullable;

/**
 * What a database reported. Never shown to callers but for {@link #words}.
 *
 * @param sqlState five characters; null when the database was never reached
 * @param number the database's own, 0 for none
 * @param name the constraint, key or column that is to blame; null when the database names none
 * @param words a SIGNAL's own; empty for every other kind
 */
public record Condition(
        ConditionKind kind,
        @Nullable String sqlState,
        int number,
        @Nullable String name,
        String words) {

    /** A condition of which nothing but its kind is known. */
    public static Condition of(ConditionKind kind) {
        return new Condition(kind, null, 0, null, "");
    }
}
