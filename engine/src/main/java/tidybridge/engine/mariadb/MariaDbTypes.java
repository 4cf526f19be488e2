package tidybridge.engine.mariadb;

import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.mariadb.jdbc.Connection;
import org.mariadb.jdbc.client.ColumnDecoder;
import org.mariadb.jdbc.util.constants.ColumnFlags;
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
            fields.add(field(data, i, Field.Members.NONE, null));
        }
        return fields;
    }

    /** The columns of a statement that was prepared, as the protocol describes them. */
    static List<Field> of(Connection connection, ColumnDecoder[] columns) throws SQLException {
        ResultSetMetaData data = new org.mariadb.jdbc.client.result.ResultSetMetaData(
                connection.getClient().getExceptionFactory(),
                columns,
                connection.getContext().getConf(),
                false);
        List<Field> fields = new ArrayList<>(columns.length);
        for (int i = 0; i < columns.length; i++) {
            fields.add(field(data, i + 1, members(columns[i].getFlags()), origin(columns[i])));
        }
        return fields;
    }

    private static Field.Members members(int flags) {
        if ((flags & ColumnFlags.ENUM) != 0) {
            return Field.Members.ONE;
        }
        return (flags & ColumnFlags.SET) != 0 ? Field.Members.SEVERAL : Field.Members.NONE;
    }

    private static Field.@Nullable Origin origin(ColumnDecoder column) {
        boolean known = !column.getSchema().isEmpty()
                && !column.getTable().isEmpty()
                && !column.getColumnName().isEmpty();
        return known ? new Field.Origin(column.getSchema(), column.getTable(), column.getColumnName()) : null;
    }

    private static Field field(ResultSetMetaData data, int column, Field.Members members, Field.@Nullable Origin origin)
            throws SQLException {
        FieldType type = type(data, column);
        boolean nullable = data.isNullable(column) != ResultSetMetaData.columnNoNulls;
        long length = type == FieldType.STRING || type == FieldType.BINARY ? data.getPrecision(column) : 0;
        return new Field(data.getColumnLabel(column), type, nullable, members, length, origin);
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
