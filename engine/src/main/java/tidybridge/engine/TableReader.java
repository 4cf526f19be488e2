package tidybridge.engine;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Relation;
import tidybridge.core.sql.Dialect;

/** Reads one table for a comparison: prints of all rows, or the rows of some keys. */
final class TableReader {

    private static final int LONGEST_TEXT = 200;
    private static final int READ_AHEAD = 1_000;
    private static final int HEXADECIMAL = 16;

    private final Relation table;
    private final List<String> key;
    private final Dialect dialect;
    private final Inspection inspection;

    /**
     * Looks at a table.
     *
     * @param key the columns that tell its rows apart
     */
    TableReader(Relation table, List<String> key, Database database) {
        this.dialect = database.dialect();
        this.inspection = database.inspection();
        this.table = table;
        this.key = List.copyOf(key);
    }

    /** The columns of the key as SQL. */
    String keyColumns() {
        return key.stream().map(dialect::quoted).collect(Collectors.joining(", "));
    }

    /**
     * A print of every row by its key.
     *
     * @param most rows
     * @return empty when there are more
     */
    Optional<Map<List<String>, Long>> prints(Connection connection, long most) throws SQLException {
        String sql = "select " + inspection.print(table.columns()) + ", " + keyColumns() + " from "
                + dialect.quoted(table.name()) + dialect.limit();
        Map<List<String>, Long> prints = new HashMap<>();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setFetchSize(READ_AHEAD);
            statement.setLong(1, most + 1);
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    if (prints.size() == most) {
                        return Optional.empty();
                    }
                    prints.put(keyOf(rows, 2), Long.parseUnsignedLong(rows.getString(1), HEXADECIMAL));
                }
            }
        }
        return Optional.of(prints);
    }

    private List<String> keyOf(ResultSet rows, int first) throws SQLException {
        List<String> values = new ArrayList<>(key.size());
        for (int i = 0; i < key.size(); i++) {
            values.add(String.valueOf(StoredTime.textOf(rows, first + i)));
        }
        return Collections.unmodifiableList(values);
    }

    /** The rows of some keys as texts, column by column; those that are not there are left out. */
    Map<List<String>, List<@Nullable String>> rows(Connection connection, List<List<String>> keys) throws SQLException {
        Map<List<String>, List<@Nullable String>> found = new LinkedHashMap<>();
        if (keys.isEmpty()) {
            return found;
        }
        String one = "(" + "?, ".repeat(key.size() - 1) + "?)";
        String columns = table.columns().stream()
                .map(column -> inspection.comparable(column, LONGEST_TEXT))
                .collect(Collectors.joining(", "));
        String sql = "select " + columns + ", " + keyColumns() + " from " + dialect.quoted(table.name()) + " where ("
                + keyColumns() + ") in (" + (one + ", ").repeat(keys.size() - 1) + one + ")";
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            int index = 1;
            for (List<String> values : keys) {
                for (String value : values) {
                    statement.setString(index++, value);
                }
            }
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    List<@Nullable String> row = new ArrayList<>();
                    for (int i = 1; i <= table.columns().size(); i++) {
                        row.add(StoredTime.textOf(rows, i));
                    }
                    found.put(keyOf(rows, table.columns().size() + 1), row);
                }
            }
        }
        return found;
    }

    /** The keys behind a number that the database gave out, in their order, and how many there are. */
    List<List<String>> behind(Connection connection, long number, int most) throws SQLException {
        String column = dialect.quoted(key.getFirst());
        String sql = "select " + column + " from " + dialect.quoted(table.name()) + " where " + column
                + " > ? order by " + column + dialect.limit();
        List<List<String>> keys = new ArrayList<>();
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            statement.setLong(1, number);
            statement.setInt(2, most);
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    keys.add(keyOf(rows, 1));
                }
            }
        }
        return keys;
    }

    /** The highest number given out yet; 0 for an empty table. */
    long highest(Connection connection) throws SQLException {
        String sql = "select max(" + dialect.quoted(key.getFirst()) + ") from " + dialect.quoted(table.name());
        try (PreparedStatement statement = connection.prepareStatement(sql);
                ResultSet row = statement.executeQuery()) {
            return row.next() ? row.getLong(1) : 0;
        }
    }
}
