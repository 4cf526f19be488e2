package tidybridge.records;

import java.math.BigDecimal;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Rows of a table as JSON objects, and back: numbers as numbers, truth as truth, bytes in Base64, times as ISO 8601 says them, everything else
 * as text.
 */
final class RowJson {

    private final List<Column> columns = new ArrayList<>();

    /** What a value is in JSON. */
    private enum Kind {
        NUMBER,
        TRUTH,
        BYTES,
        TIME,
        TEXT
    }

    private record Column(String name, Kind kind) {}

    RowJson(ResultSetMetaData table) throws SQLException {
        for (int i = 1; i <= table.getColumnCount(); i++) {
            columns.add(new Column(table.getColumnName(i), kind(table.getColumnType(i))));
        }
    }

    private static Kind kind(int type) {
        return switch (type) {
            case Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT, Types.DECIMAL, Types.NUMERIC ->
                Kind.NUMBER;
            case Types.BIT, Types.BOOLEAN -> Kind.TRUTH;
            case Types.BINARY, Types.VARBINARY, Types.LONGVARBINARY, Types.BLOB -> Kind.BYTES;
            case Types.TIMESTAMP -> Kind.TIME;
            default -> Kind.TEXT;
        };
    }

    ObjectNode read(ResultSet rows) throws SQLException {
        ObjectNode row = JsonMapper.shared().createObjectNode();
        for (int i = 0; i < columns.size(); i++) {
            Column column = columns.get(i);
            String text = rows.getString(i + 1);
            if (text == null) {
                row.putNull(column.name());
                continue;
            }
            switch (column.kind()) {
                case NUMBER -> row.put(column.name(), new BigDecimal(text));
                case TRUTH -> row.put(column.name(), rows.getBoolean(i + 1));
                case BYTES -> row.put(column.name(), Base64.getEncoder().encodeToString(rows.getBytes(i + 1)));
                // the driver's own text of a time loses the zeros before its milliseconds
                case TIME ->
                    row.put(
                            column.name(),
                            rows.getObject(i + 1, LocalDateTime.class).toString());
                case TEXT -> row.put(column.name(), text);
            }
        }
        return row;
    }

    /** The columns of a table that a row names, in the table's order. */
    List<String> names(JsonNode row) {
        return columns.stream().map(Column::name).filter(row::has).toList();
    }

    /** True when the table has every column that a row names. */
    boolean knows(JsonNode row) {
        return row.propertyNames().stream()
                .allMatch(name ->
                        columns.stream().anyMatch(column -> column.name().equals(name)));
    }

    /** Binds the columns that a row names, in the table's order. */
    void bind(JsonNode row, PreparedStatement statement) throws SQLException {
        int at = 1;
        for (Column column : columns) {
            JsonNode value = row.get(column.name());
            if (value == null) {
                continue;
            }
            if (value.isNull()) {
                statement.setNull(at, Types.NULL);
            } else {
                switch (column.kind()) {
                    case NUMBER -> statement.setBigDecimal(at, value.decimalValue());
                    case TRUTH -> statement.setBoolean(at, value.asBoolean());
                    case BYTES -> statement.setBytes(at, Base64.getDecoder().decode(value.asString()));
                    case TIME -> statement.setObject(at, LocalDateTime.parse(value.asString()));
                    case TEXT -> statement.setString(at, value.asString());
                }
            }
            at++;
        }
    }
}
