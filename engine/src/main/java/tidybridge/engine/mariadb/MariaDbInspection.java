package tidybridge.engine.mariadb;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.sql.Dialect;
import tidybridge.engine.Inspection;

/** Looks at rows with MariaDB's own functions and counters. */
final class MariaDbInspection implements Inspection {

    private static final String COUNTERS =
            "show session status where variable_name in ('Handler_write', 'Handler_update', 'Handler_delete')";

    private final Dialect dialect;

    MariaDbInspection(Dialect dialect) {
        this.dialect = dialect;
    }

    @Override
    public String text(Column column, int longest) {
        String name = dialect.quoted(column.name());
        return switch (column.type().fieldType()) {
            case BINARY -> "concat(octet_length(" + name + "), ' bytes')";
            case GEOMETRY -> "left(st_astext(" + name + "), " + longest + ")";
            case STRING, JSON -> "left(" + name + ", " + longest + ")";
            case BITS -> name + " + 0";
            case INTEGER, DECIMAL, FLOAT, BOOLEAN, DATE, TIME, LOCAL_DATE_TIME, MOMENT -> name;
        };
    }

    @Override
    public String comparable(Column column, int longest) {
        String name = dialect.quoted(column.name());
        return column.type().fieldType() == FieldType.BINARY
                ? "concat(octet_length(" + name + "), ' bytes, ', left(md5(" + name + "), 8))"
                : text(column, longest);
    }

    @Override
    public String print(List<Column> columns) {
        return columns.stream()
                .map(column -> dialect.quoted(column.name()))
                .map(name -> "isnull(" + name + "), ifnull(" + name + ", '')")
                .collect(Collectors.joining(", ", "left(md5(concat_ws(0x00, ", ")), 16)"));
    }

    @Override
    public Writes writes(Connection connection) throws SQLException {
        Map<String, Long> counters = new HashMap<>();
        try (PreparedStatement statement = connection.prepareStatement(COUNTERS);
                ResultSet rows = statement.executeQuery()) {
            while (rows.next()) {
                counters.put(rows.getString(1), rows.getLong(2));
            }
        }
        return new Writes(
                counters.getOrDefault("Handler_write", 0L),
                counters.getOrDefault("Handler_update", 0L),
                counters.getOrDefault("Handler_delete", 0L));
    }
}
