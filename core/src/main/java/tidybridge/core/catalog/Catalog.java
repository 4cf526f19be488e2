package tidybridge.core.catalog;

import java.time.Duration;

/** Answers questions about a source while definitions are compiled. */
public interface Catalog {

    /**
     * Describes a statement by preparing it.
     *
     * @param sql one statement with a {@code ?} for each bind parameter
     */
    Described describe(String sql);

    /**
     * The statement in the form in which the source's own server stops it after a time.
     *
     * @param timeout above zero
     */
    default String bounded(String sql, Duration timeout) {
        return sql;
    }

    /** A catalog for checking text alone: it knows nothing, and says so. */
    static Catalog offline() {
        return sql -> new Described.Unknown();
    }
}
