package tidybridge.engine.mariadb;

import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;

/** Tells from a prepared statement's metadata what each field of its answer is. */
final class MariaDbTypes {

    private static final Set<String> GEOMETRIES = Set.of(
            "GEOMETRY",
            "POINT",
            "LINESTRING",
            "POLYGON",
            "MULTIPOINT",
            "MULTILINESTRING",
            "MULTIPOLYGON",
            "GEOMETRYCOLLECTION");

    private MariaDbTypes() {}

    static List<Field> of(ResultSetMetaData data) throws SQLException {
        List<Field> fields = new ArrayList<>(data.getColumnCount());
        for (int i = 1; i <= data.getColumnCount(); i++) {
            boolean nullable = data.isNullable(i) != ResultSetMetaData.columnNoNulls;
            fields.add(new Field(data.getColumnLabel(i), type(data, i), nullable));
        }
        return fields;
    }

    private static FieldType type(ResultSetMetaData data, int column) throws SQLException {
        String name = data.getColumnTypeName(column).toUpperCase(Locale.ROOT);
        if (GEOMETRIES.contains(name)) {
            return FieldType.GEOMETRY;
        }
        return switch (data.getColumnType(column)) {
            case Types.TINYINT, Types.SMALLINT, Types.INTEGER -> FieldType.INTEGER;
            case Types.BIGINT -> name.contains("UNSIGNED") ? FieldType.DECIMAL : FieldType.INTEGER;
            case Types.BIT -> data.getPrecision(column) > 1 ? FieldType.BITS : FieldType.BOOLEAN;
            case Types.BOOLEAN -> FieldType.BOOLEAN;
            case Types.DECIMAL, Types.NUMERIC -> FieldType.DECIMAL;
            case Types.REAL, Types.FLOAT, Types.DOUBLE -> FieldType.FLOAT;
            case Types.DATE -> name.equals("YEAR") ? FieldType.INTEGER : FieldType.DATE;
            case Types.TIME -> FieldType.TIME;
            case Types.TIMESTAMP -> name.equals("TIMESTAMP") ? FieldType.MOMENT : FieldType.LOCAL_DATE_TIME;
            case Types.BINARY, Types.VARBINARY, Types.LONGVARBINARY, Types.BLOB -> FieldType.BINARY;
            default -> name.equals("JSON") ? FieldType.JSON : FieldType.STRING;
        };
    }
}
