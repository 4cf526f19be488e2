package tidybridge.engine;

import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/** Reads a JDBC result field by field. */
final class JdbcRows implements Rows {

    private final ResultSet result;

    /** Which columns hold dates and times; null until a text is asked for. */
    private boolean @Nullable [] times;

    JdbcRows(ResultSet result) {
        this.result = result;
    }

    /** Carries a broken result out of the unchecked {@link Rows}. */
    static final class Broken extends RuntimeException {
        private final SQLException reason;

        Broken(SQLException reason) {
            super(reason);
            this.reason = reason;
        }

        SQLException reason() {
            return reason;
        }
    }

    @Override
    public boolean next() {
        try {
            return result.next();
        } catch (SQLException e) {
            throw new Broken(e);
        }
    }

    @Override
    public @Nullable String text(int field) {
        try {
            boolean[] known = times;
            if (known == null) {
                known = findTimes();
                times = known;
            }
            return known[field] ? StoredTime.read(result, field + 1) : result.getString(field + 1);
        } catch (SQLException e) {
            throw new Broken(e);
        }
    }

    @Override
    public @Nullable String characters(int field) {
        try {
            return result.getString(field + 1);
        } catch (SQLException e) {
            throw new Broken(e);
        }
    }

    private boolean[] findTimes() throws SQLException {
        ResultSetMetaData data = result.getMetaData();
        boolean[] found = new boolean[data.getColumnCount()];
        for (int i = 0; i < found.length; i++) {
            found[i] = StoredTime.isIn(data, i + 1);
        }
        return found;
    }

    @Override
    public long integer(int field) {
        try {
            return result.getLong(field + 1);
        } catch (SQLException e) {
            throw new Broken(e);
        }
    }

    @Override
    public double real(int field) {
        try {
            return result.getDouble(field + 1);
        } catch (SQLException e) {
            throw new Broken(e);
        }
    }

    @Override
    public byte @Nullable [] bytes(int field) {
        try {
            return result.getBytes(field + 1);
        } catch (SQLException e) {
            throw new Broken(e);
        }
    }

    @Override
    public boolean wasNull() {
        try {
            return result.wasNull();
        } catch (SQLException e) {
            throw new Broken(e);
        }
    }
}
