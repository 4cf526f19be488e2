package tidybridge.engine.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import org.jspecify.annotations.Nullable;
import org.mariadb.jdbc.client.Client;
import org.mariadb.jdbc.message.client.PreparePacket;
import org.mariadb.jdbc.message.server.PrepareResultPacket;
import tidybridge.core.catalog.Access;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.PlannedRows;
import tidybridge.core.catalog.RowCount;
import tidybridge.engine.CatalogReader;

/** Reads MariaDB's information schema, and what its EXPLAIN says. */
final class MariaDbCatalog implements CatalogReader {

    private static final AtomicLong LOOKS = new AtomicLong();

    /** A time limit stands around a statement, {@code set statement ... for select ...}; {@link MariaDbSessions#bounded} writes it. */
    static final String LIMIT_BEGINS = "set statement ";

    static final String LIMIT_ENDS = " for ";

    @Override
    public Contents contents(Connection connection, String schema) throws SQLException {
        return new MariaDbContents(connection, schema).read();
    }

    @Override
    public @Nullable String procedureBody(Connection connection, String schema, String name) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("""
                select routine_definition from information_schema.routines
                where routine_schema = ? and routine_name = ? and routine_type = 'PROCEDURE'""")) {
            statement.setString(1, schema);
            statement.setString(2, name);
            try (ResultSet row = statement.executeQuery()) {
                return row.next() ? row.getString(1) : null;
            }
        }
    }

    @Override
    public int count(Connection connection, String schema) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement("""
                select (select count(*) from information_schema.tables where table_schema = ?)
                  + (select count(*) from information_schema.routines where routine_schema = ?)""")) {
            statement.setString(1, schema);
            statement.setString(2, schema);
            try (ResultSet row = statement.executeQuery()) {
                return row.next() ? row.getInt(1) : 0;
            }
        }
    }

    @Override
    public List<Field> fields(ResultSetMetaData data) throws SQLException {
        return MariaDbTypes.of(data);
    }

    /**
     * By the driver's own preparing: the standard interface does not tell which columns are enums and sets. The driver keeps what it prepared
     * by its text, and would describe a table as it was before it was altered; so no two looks have the same text.
     */
    @Override
    public List<Field> describe(Connection connection, String sql) throws SQLException {
        org.mariadb.jdbc.Connection own = connection.unwrap(org.mariadb.jdbc.Connection.class);
        Client client = own.getClient();
        PrepareResultPacket prepared = (PrepareResultPacket) client.execute(
                        new PreparePacket("/* look " + LOOKS.incrementAndGet() + " */ " + own.nativeSQL(sql)), true)
                .getFirst();
        try {
            return MariaDbTypes.of(own, prepared.getColumns());
        } finally {
            prepared.close(client);
        }
    }

    @Override
    public List<Access> explain(Connection connection, String sql, List<Object> values) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(explained(sql, "explain "))) {
            for (int i = 0; i < values.size(); i++) {
                statement.setObject(i + 1, values.get(i));
            }
            try (ResultSet rows = statement.executeQuery()) {
                return accesses(rows);
            }
        }
    }

    /** EXPLAIN stands behind a time limit, not before it. */
    private static String explained(String sql, String explain) {
        int limit = sql.startsWith(LIMIT_BEGINS) ? sql.indexOf(LIMIT_ENDS) + LIMIT_ENDS.length() : 0;
        return sql.substring(0, limit) + explain + sql.substring(limit);
    }

    @Override
    public String planned(String sql) {
        return explained(sql, "explain format=json ");
    }

    @Override
    public boolean isInOrder(String plan) {
        return PlannedRows.areInOrder(plan);
    }

    @Override
    public RowCount.@Nullable Estimate estimate(String plan) {
        return PlannedRows.of(plan);
    }

    private static List<Access> accesses(ResultSet rows) throws SQLException {
        List<Access> accesses = new ArrayList<>();
        while (rows.next()) {
            accesses.add(new Access(
                    rows.getInt("id"),
                    text(rows.getString("table")),
                    way(rows.getString("type")),
                    rows.getString("key"),
                    list(rows.getString("possible_keys"), ","),
                    rows.getLong("rows"),
                    list(rows.getString("Extra"), ";")));
        }
        return accesses;
    }

    private static List<String> list(@Nullable String text, String separator) {
        return Arrays.stream(text(text).split(separator))
                .map(String::strip)
                .filter(item -> !item.isEmpty())
                .toList();
    }

    private static String text(@Nullable String value) {
        return value == null ? "" : value;
    }

    private static Access.Way way(@Nullable String type) {
        return switch (text(type)) {
            case "" -> Access.Way.NONE;
            case "system", "const", "eq_ref", "unique_subquery" -> Access.Way.ONE_ROW;
            case "ref", "ref_or_null", "fulltext", "index_subquery" -> Access.Way.EQUAL;
            case "range", "index_merge" -> Access.Way.RANGE;
            case "index" -> Access.Way.WHOLE_INDEX;
            default -> Access.Way.WHOLE_TABLE;
        };
    }
}
