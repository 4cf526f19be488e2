package tidybridge.engine;

import java.sql.Connection;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Access;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.RowCount;

/** What the catalog and the planner of one kind of database tell. */
public interface CatalogReader {

    /** Everything the user may see of a schema. */
    Contents contents(Connection connection, String schema) throws SQLException;

    /** The body of a procedure; null where the user may not see it. */
    @Nullable
    String procedureBody(Connection connection, String schema, String name) throws SQLException;

    /** How many tables, views and routines the user may see of a schema. */
    int count(Connection connection, String schema) throws SQLException;

    /** The fields of a result that is there. */
    List<Field> fields(ResultSetMetaData data) throws SQLException;

    /**
     * The fields of a statement's rows, without running it.
     *
     * @return empty for a statement that returns no rows
     */
    List<Field> describe(Connection connection, String sql) throws SQLException;

    /**
     * How the database would run a query.
     *
     * @param sql as {@link Sessions#bounded} wrote it
     * @param values one for each question mark
     */
    List<Access> explain(Connection connection, String sql, List<Object> values) throws SQLException;

    /** A query in the form in which the server tells how it would run it. */
    String planned(String sql);

    /**
     * How many rows a query has as the server expects.
     *
     * @param plan the text that {@link #planned} returned
     * @return null when the server has them counted
     */
    RowCount.@Nullable Estimate estimate(String plan);

    /**
     * Whether the server would tell the first rows of a query without reading the others.
     *
     * @param plan the text that {@link #planned} returned
     */
    boolean isInOrder(String plan);
}
