package tidybridge.engine.mariadb;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.sql.CallableStatement;
import java.sql.SQLException;
import java.sql.Types;
import org.jspecify.annotations.Nullable;
import tidybridge.core.plan.StepPlan.Out;
import tidybridge.engine.Outputs;
import tidybridge.engine.StoredTime;

/** Reads what procedures hand back as a query would have answered it: the driver writes a flag as a word where the database writes a number. */
final class MariaDbOutputs implements Outputs {

    @Override
    public void register(CallableStatement statement, Out out) throws SQLException {
        boolean binary = switch (out.type()) {
            case BINARY, BITS, GEOMETRY -> true;
            case INTEGER, DECIMAL, FLOAT, BOOLEAN, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, JSON -> false;
        };
        statement.registerOutParameter(out.position(), binary ? Types.BLOB : Types.VARCHAR);
    }

    @Override
    public @Nullable Object value(CallableStatement statement, Out out) throws SQLException {
        return switch (out.type()) {
            case INTEGER, BOOLEAN -> {
                long number = statement.getLong(out.position());
                yield statement.wasNull() ? null : Long.valueOf(number);
            }
            case BITS -> {
                // a column's bits come as they are, a procedure's as the digits of the number they make
                byte[] digits = statement.getBytes(out.position());
                yield digits == null
                        ? null
                        : new BigInteger(new String(digits, StandardCharsets.US_ASCII)).toByteArray();
            }
            case BINARY, GEOMETRY -> statement.getBytes(out.position());
            case DATE, TIME, LOCAL_DATE_TIME, MOMENT -> {
                StoredTime time = statement.getObject(out.position(), StoredTime.class);
                yield time == null ? null : time.text();
            }
            case DECIMAL, FLOAT, STRING, JSON -> statement.getString(out.position());
        };
    }
}
