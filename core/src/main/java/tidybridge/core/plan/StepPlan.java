package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.definition.StepDefinition.ChangeLimit;
import tidybridge.core.definition.StepDefinition.Expect;
import tidybridge.core.sql.StatementKind;

/**
 * One statement of a change. Immutable and thread-safe.
 *
 * @param name empty for the only one
 * @param columns of the row it hands on: a query's own, or what is known of a change
 * @param returnsRows true for a change whose rows come from RETURNING
 * @param replaces true when a changed row may count twice, because it took the place of another
 * @param otherwise null for the usual refusal
 * @param message of the refusal, filled from the row that was found; null for the usual one
 * @param saved what later steps use of its row
 * @param call what a procedure hands back; null for every other statement
 */
public record StepPlan(
        String name,
        StatementKind kind,
        StatementPlan statement,
        List<Field> columns,
        boolean returnsRows,
        ChangeLimit limit,
        boolean replaces,
        Expect expect,
        @Nullable RefusalRule otherwise,
        @Nullable Template message,
        List<Saved> saved,
        @Nullable CallPlan call) {

    /** The column of a change that tells how many rows it touched. */
    public static final String CHANGED = "changed";

    /** The column of an INSERT that tells the number the database gave the row. */
    public static final String KEY = "key";

    /**
     * A value for later steps.
     *
     * @param column of this step's row
     * @param value where it goes among the request's values
     */
    public record Saved(int column, FieldType type, int value) {}

    /**
     * What a procedure hands back.
     *
     * @param outs in the order of the columns
     * @param results in the order the procedure returns them
     */
    public record CallPlan(List<Out> outs, List<StepDefinition.ResultSet> results) {
        public CallPlan {
            outs = List.copyOf(outs);
            results = List.copyOf(results);
        }
    }

    /**
     * An argument that comes back.
     *
     * @param position of its question mark, from 1
     * @param given true for INOUT, which is sent too
     */
    public record Out(String name, int position, FieldType type, boolean given) {}

    public StepPlan {
        columns = List.copyOf(columns);
        saved = List.copyOf(saved);
    }

    /** The same, handing something on. */
    public StepPlan withSaved(List<Saved> values) {
        return new StepPlan(
                name, kind, statement, columns, returnsRows, limit, replaces, expect, otherwise, message, values, call);
    }

    /** True when its rows are read one after the other. */
    public boolean reads() {
        return kind == StatementKind.QUERY || returnsRows;
    }
}
