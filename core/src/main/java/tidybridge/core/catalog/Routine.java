package tidybridge.core.catalog;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A stored procedure or function.
 *
 * @param returns a function's result; null for a procedure
 * @param about its comment, empty for none
 */
public record Routine(
        String name, Kind kind, @Nullable ColumnType returns, List<Parameter> parameters, Access access, String about) {

    /** What it is. */
    public enum Kind {
        PROCEDURE,
        FUNCTION
    }

    /** What its declaration says it does with data; the database does not check it. */
    public enum Access {
        CONTAINS_SQL,
        NO_SQL,
        READS_DATA,
        MODIFIES_DATA
    }

    /** One of its parameters. */
    public record Parameter(String name, Mode mode, ColumnType type) {}

    /** The way a parameter's value goes. */
    public enum Mode {
        IN,
        OUT,
        INOUT
    }

    public Routine {
        parameters = List.copyOf(parameters);
    }
}
