package tidybridge.engine.mariadb;

import java.sql.SQLDataException;
import java.sql.SQLException;
import java.util.Calendar;
import java.util.EnumSet;
import java.util.Set;
import org.mariadb.jdbc.client.ColumnDecoder;
import org.mariadb.jdbc.client.Context;
import org.mariadb.jdbc.client.DataType;
import org.mariadb.jdbc.client.ReadableByteBuf;
import org.mariadb.jdbc.client.socket.Writer;
import org.mariadb.jdbc.client.util.MutableInt;
import org.mariadb.jdbc.plugin.Codec;
import tidybridge.engine.StoredTime;

/**
 * Reads what a DATE, TIME, DATETIME or TIMESTAMP column holds without asking a calendar. Found by the driver as a service of this
 * package's jar. The driver's own reading fails at 2020-00-00 and writes 12:30:00.001 as 12:30:00.1000.
 */
public final class StoredTimeCodec implements Codec<StoredTime> {

    private static final Set<DataType> TYPES =
            EnumSet.of(DataType.DATE, DataType.NEWDATE, DataType.TIME, DataType.DATETIME, DataType.TIMESTAMP);

    private static final int MOST_DIGITS = 6;
    private static final int HOURS_OF_DAY = 24;

    @Override
    public String className() {
        return StoredTime.class.getName();
    }

    @Override
    public boolean canDecode(ColumnDecoder column, Class<?> type) {
        return type == StoredTime.class && TYPES.contains(column.getType());
    }

    @Override
    public boolean canEncode(Object value) {
        return false;
    }

    @Override
    public StoredTime decodeText(
            ReadableByteBuf buffer, MutableInt length, ColumnDecoder column, Calendar calendar, Context context)
            throws SQLDataException {
        return new StoredTime(buffer.readAscii(length.get()));
    }

    @Override
    public StoredTime decodeBinary(
            ReadableByteBuf buffer, MutableInt length, ColumnDecoder column, Calendar calendar, Context context) {
        StringBuilder text = new StringBuilder(26);
        switch (column.getType()) {
            case TIME -> time(buffer, length.get(), column.getDecimals(), text);
            case DATE, NEWDATE -> date(buffer, length.get(), text);
            default -> {
                date(buffer, length.get(), text);
                text.append(' ');
                clock(buffer, length.get() > 4, length.get() > 7, column.getDecimals(), text);
            }
        }
        return new StoredTime(text.toString());
    }

    /** The protocol leaves out what is zero: all of it, the clock, or the part of a second. */
    private static void date(ReadableByteBuf buffer, int length, StringBuilder text) {
        boolean there = length > 0;
        padded(there ? buffer.readUnsignedShort() : 0, 4, text);
        text.append('-');
        padded(there ? buffer.readByte() : 0, 2, text);
        text.append('-');
        padded(there ? buffer.readByte() : 0, 2, text);
    }

    private static void time(ReadableByteBuf buffer, int length, int decimals, StringBuilder text) {
        boolean there = length > 0;
        text.append(there && buffer.readByte() == 1 ? "-" : "");
        long days = there ? buffer.readUnsignedInt() : 0;
        long hours = there ? buffer.readByte() : 0;
        padded(days * HOURS_OF_DAY + hours, 2, text);
        text.append(':');
        padded(there ? buffer.readByte() : 0, 2, text);
        text.append(':');
        padded(there ? buffer.readByte() : 0, 2, text);
        fraction(length > 8 ? buffer.readUnsignedInt() : 0, decimals, text);
    }

    private static void clock(
            ReadableByteBuf buffer, boolean there, boolean fraction, int decimals, StringBuilder text) {
        padded(there ? buffer.readByte() : 0, 2, text);
        text.append(':');
        padded(there ? buffer.readByte() : 0, 2, text);
        text.append(':');
        padded(there ? buffer.readByte() : 0, 2, text);
        fraction(fraction ? buffer.readUnsignedInt() : 0, decimals, text);
    }

    /** As many digits as the column keeps; an expression that does not say has six, or none for a whole second. */
    private static void fraction(long micros, int decimals, StringBuilder text) {
        boolean known = decimals <= MOST_DIGITS;
        if (known ? decimals == 0 : micros == 0) {
            return;
        }
        text.append('.');
        int from = text.length();
        padded(micros, MOST_DIGITS, text);
        text.setLength(from + (known ? decimals : MOST_DIGITS));
    }

    private static void padded(long number, int digits, StringBuilder text) {
        String written = Long.toString(number);
        for (int i = written.length(); i < digits; i++) {
            text.append('0');
        }
        text.append(written);
    }

    @Override
    public void encodeText(Writer encoder, Context context, StoredTime value, Calendar calendar, Long length)
            throws SQLException {
        throw refused();
    }

    @Override
    public int getApproximateTextProtocolLength(StoredTime value, Long length) {
        return -1;
    }

    @Override
    public void encodeBinary(Writer encoder, Context context, StoredTime value, Calendar calendar, Long length)
            throws SQLException {
        throw refused();
    }

    private static SQLException refused() {
        return new SQLException("a stored time is only read");
    }

    @Override
    public int getBinaryEncodeType() {
        return DataType.DATETIME.get();
    }
}
