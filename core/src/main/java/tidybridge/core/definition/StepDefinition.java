package tidybridge.core.definition;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;

/**
 * One statement of an operation. Most operations have a single one, which has no name.
 *
 * @param name what later steps call it, as in {@code :name.field}; empty for the only one
 * @param sql the statement's text; its file is the path inside the module
 * @param with what bind parameters are called elsewhere, so that several operations can share a file
 * @param expect what the rows it finds must be for the next step to follow
 * @param otherwise what is answered when they are not; null for the usual 404 or 409
 * @param changes how many rows it may change; null for what its kind of statement usually may
 * @param results what the result sets of a procedure are called, in their order
 */
public record StepDefinition(
        String name,
        Place place,
        SourceText sql,
        Place sqlPlace,
        List<With> with,
        Expect expect,
        @Nullable RefusalRule otherwise,
        @Nullable ChangeLimit changes,
        List<ResultSet> results) {

    /** What a guard wants of the rows it finds. */
    public enum Expect {
        ANYTHING,
        ROW,
        NO_ROW
    }

    /** Where a bind parameter is taken from: another parameter, or {@code step.field}. */
    public record With(String bind, String from, Place place) {}

    /**
     * A result set of a procedure.
     *
     * @param single true for one object, null when there is no row, instead of a list
     */
    public record ResultSet(String name, boolean single, Place place) {}

    /**
     * How many rows a statement may change; beyond it everything is rolled back.
     *
     * @param most rows
     * @param needed true when changing none means that nothing was found
     */
    public record ChangeLimit(int most, boolean needed) {
        public static final ChangeLimit ONE = new ChangeLimit(1, true);
        public static final ChangeLimit ANY = new ChangeLimit(Integer.MAX_VALUE, false);
    }

    public StepDefinition {
        with = List.copyOf(with);
        results = List.copyOf(results);
    }
}
