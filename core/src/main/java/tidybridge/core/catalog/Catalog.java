package tidybridge.core.catalog;

import java.time.Duration;
import java.util.List;
import java.util.Optional;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.TimeLimit;

/** Answers questions about a source while definitions are compiled. */
public interface Catalog {

    /**
     * Describes a statement by preparing it.
     *
     * @param sql one statement with a {@code ?} for each bind parameter
     */
    Described describe(String sql);

    /** How the source's SQL is written. */
    default Dialect dialect() {
        return Dialect.usual();
    }

    /**
     * The statement in the form in which the source's own server stops it after a time.
     *
     * @param limit how long it may run where the source does not allow less
     */
    default String bounded(String sql, TimeLimit limit) {
        return sql;
    }

    /** What the source holds; empty when nobody can be asked. */
    default Optional<Contents> contents() {
        return Optional.empty();
    }

    /**
     * How the source would run a query, without running it.
     *
     * @param sql with a {@code ?} for each value
     * @param values one for each question mark
     * @return one access for each table in the order they are read; empty when nobody can be asked or the source does not say
     */
    default List<Access> explain(String sql, List<Object> values) {
        return List.of();
    }

    /**
     * False for a column of flags that holds another number than 0 and 1, which an answer of true and false would hide. What is not found
     * in a moment is not looked for any longer.
     */
    default boolean holdsFlags(Field.Origin column) {
        return true;
    }

    /**
     * Reads what the source holds again when that was read longer ago. However often this is asked, reading takes half of the time at most with an
     * age of zero, and a sixth of it with another.
     *
     * @return false when it is fresh enough, or nobody can be asked
     */
    default boolean refreshed(Duration age) {
        return false;
    }

    /** The body of a procedure; empty where the source's user may not see it, and when nobody can be asked. */
    default Optional<String> procedureBody(String name) {
        return Optional.empty();
    }

    /** True when the source refuses every change. */
    default boolean isReadOnly() {
        return false;
    }

    /** True when nobody is asked at all. */
    default boolean isOffline() {
        return false;
    }

    /** A catalog for checking text alone: it knows nothing, and says so. */
    static Catalog offline() {
        return new Catalog() {
            @Override
            public Described describe(String sql) {
                return new Described.Unknown();
            }

            @Override
            public boolean isOffline() {
                return true;
            }
        };
    }
}
