package tidybridge.engine;

import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import org.jspecify.annotations.Nullable;

/**
 * A date, a time or both as the database holds it: {@code 2020-00-00}, which no calendar has, {@code -838:59:59}, {@code 2031-05-01
 * 12:30:00.001} with as many digits as the column keeps. A database's package teaches its driver to hand such values over as this type,
 * because drivers make calendars' dates of them, refuse some and change others.
 */
public record StoredTime(String text) {

    /** Whether a column, counted from 1, holds such values. */
    static boolean isIn(ResultSetMetaData data, int column) throws SQLException {
        return switch (data.getColumnType(column)) {
            case Types.DATE -> !data.getColumnTypeName(column).equalsIgnoreCase("YEAR");
            case Types.TIME, Types.TIMESTAMP -> true;
            default -> false;
        };
    }

    /** What a column, counted from 1, holds; null for NULL. */
    static @Nullable String read(ResultSet result, int column) throws SQLException {
        StoredTime time = result.getObject(column, StoredTime.class);
        return time == null ? null : time.text();
    }

    /** The text of a column of any type, for those who do not know the types of what they read; null for NULL. */
    static @Nullable String textOf(ResultSet result, int column) throws SQLException {
        return isIn(result.getMetaData(), column) ? read(result, column) : result.getString(column);
    }
}
