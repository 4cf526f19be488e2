package tidybridge.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import tidybridge.demo.TestDatabase;

/** A table with a column of every type, collation and oddity there is: {@code id}, {@code c0}, {@code c1} and so on. */
final class EveryType {

    /** A column type and values of it as SQL writes them, out of which rows are drawn; null is drawn too where the column allows it. */
    record ColumnType(String type, String... values) {
        boolean nullable() {
            return !type.contains("not null");
        }
    }

    private static final String[] TEXTS = {
        "''",
        "'a'",
        "'A'",
        "'á'",
        "'b '",
        "'b'",
        "'ß'",
        "'ss'",
        "'ǆ'",
        "'\\\\'",
        "'\\'\"'",
        "'zürich'",
        "'Zurich'",
        "'🚤'",
        "'10'",
        "'9'"
    };
    private static final String[] LATIN = {"''", "'a'", "'A'", "'ä'", "'ae'", "'ß'", "'ss'", "'z'", "'b '", "'b'"};

    static final List<ColumnType> COLUMNS = List.of(
            new ColumnType("enum('zeta','alpha','mid') not null", "'zeta'", "'alpha'", "'mid'"),
            new ColumnType("enum('Ö','a','','10','9')", "'Ö'", "'a'", "''", "'10'", "'9'"),
            new ColumnType("set('oak','iron','elm')", "''", "'oak'", "'iron'", "'oak,iron'", "'elm'", "'oak,elm'"),
            new ColumnType("set(" + members(64) + ")", "'m1'", "'m64'", "'m63'", "'m1,m64'", "''"),
            new ColumnType("tinyint(1) not null", "-1", "0", "1", "2"),
            new ColumnType("tinyint unsigned", "0", "255", "127"),
            new ColumnType("bigint", "-9223372036854775808", "9223372036854775807", "0", "-1"),
            new ColumnType("bigint unsigned", "18446744073709551615", "9223372036854775808", "0", "1"),
            new ColumnType("decimal(38,10)", "1234567890123456789012345678.0123456789", "-1", "0", "0.0000000001"),
            new ColumnType("float", "0.1", "1.5e-38", "-3.4e38", "16777216", "0"),
            new ColumnType("double not null", "0.1", "0.30000000000000004", "-1e300", "4.9e-300", "0"),
            new ColumnType("bit(1)", "b'0'", "b'1'"),
            new ColumnType("bit(12)", "b'0'", "b'101000000001'", "b'1'"),
            new ColumnType("bit(64) not null", "0", "0xFFFFFFFFFFFFFFFF", "0x8000000000000000", "1"),
            new ColumnType("char(8) collate utf8mb4_general_ci", TEXTS),
            new ColumnType("varchar(60) collate utf8mb4_unicode_ci not null", TEXTS),
            new ColumnType("varchar(60) collate utf8mb4_uca1400_as_cs", TEXTS),
            new ColumnType("varchar(60) collate utf8mb4_bin", TEXTS),
            new ColumnType("varchar(60) collate utf8mb4_nopad_bin", TEXTS),
            new ColumnType("varchar(60) collate utf8mb4_german2_ci", TEXTS),
            new ColumnType("varchar(60) collate utf8mb4_swedish_ci", TEXTS),
            new ColumnType("varchar(60) character set latin1 collate latin1_german2_ci", LATIN),
            new ColumnType("varchar(60) character set latin1 collate latin1_general_cs", LATIN),
            new ColumnType("varchar(60) character set utf16", TEXTS),
            new ColumnType("varchar(60) character set cp1251", "'а'", "'Б'", "'б'", "'z'"),
            new ColumnType("tinytext", TEXTS),
            new ColumnType(
                    "date",
                    "'2031-05-01'",
                    "'1000-01-01'",
                    "'0000-00-00'",
                    "'2020-00-00'",
                    "'2020-05-00'",
                    "'9999-12-31'"),
            new ColumnType("time", "'12:30:00'", "'-838:59:59'", "'838:59:59'", "'00:00:00'"),
            new ColumnType("time(3)", "'12:30:00.125'", "'-00:00:00.001'", "'12:30:00.124'"),
            new ColumnType(
                    "datetime",
                    "'2031-05-01 12:30:00'",
                    "'0000-00-00 00:00:00'",
                    "'2020-00-05 01:02:03'",
                    "'2031-05-01 12:30:01'"),
            new ColumnType(
                    "datetime(6) not null",
                    "'2031-05-01 12:30:00.000125'",
                    "'2031-05-01 12:30:00.000124'",
                    "'1000-01-01'"),
            new ColumnType(
                    "timestamp(3) null",
                    "'2031-05-01 12:30:00.001'",
                    "'2031-03-30 02:30:00'",
                    "'1970-01-01 00:00:01'",
                    "0"),
            new ColumnType("year", "2031", "1901", "0"),
            new ColumnType("binary(4)", "x'00FF10AB'", "x'00000000'", "x'FFFFFFFF'", "x'61'"),
            new ColumnType("varbinary(20) not null", "x''", "x'00'", "x'0000'", "x'FF'", "x'6120'", "x'61'"),
            new ColumnType("tinyblob", "x''", "x'00'", "x'0000'", "x'FF'"),
            new ColumnType(
                    "uuid",
                    "'1b4e28ba-2fa1-4d2e-883f-0016d3cca427'",
                    "'1b4e28ba-2fa1-1d2e-883f-0016d3cca427'",
                    "'00000000-0000-0000-0000-000000000000'",
                    "'ffffffff-2fa1-1d2e-883f-0016d3cca427'"),
            new ColumnType("inet4", "'192.0.2.7'", "'9.0.2.7'", "'192.0.2.8'"),
            new ColumnType("inet6", "'2001:db8::7'", "'::'", "'::ffff:192.0.2.1'"));

    /** {@code c0, c1, ...} */
    static final String NAMES = String.join(
            ", ", IntStream.range(0, COLUMNS.size()).mapToObj(i -> "c" + i).toList());

    private EveryType() {}

    private static String members(int count) {
        StringBuilder members = new StringBuilder("'m1'");
        for (int i = 2; i <= count; i++) {
            members.append(",'m").append(i).append('\'');
        }
        return members.toString();
    }

    /** Makes the table in the demo's schema and fills it with values that are drawn. */
    static void make(String table, int rows, Random random) throws SQLException {
        StringBuilder columns = new StringBuilder("create or replace table " + table + " (id int primary key");
        for (int i = 0; i < COLUMNS.size(); i++) {
            columns.append(", c").append(i).append(' ').append(COLUMNS.get(i).type());
        }
        List<String> statements =
                new ArrayList<>(List.of("set time_zone = '+00:00'", columns + ") default charset utf8mb4"));
        for (int id = 1; id <= rows; id++) {
            StringBuilder row = new StringBuilder("insert into " + table + " values (" + id);
            for (ColumnType column : COLUMNS) {
                boolean isNull = column.nullable() && random.nextInt(6) == 0;
                row.append(", ").append(isNull ? "null" : column.values()[random.nextInt(column.values().length)]);
            }
            statements.add(row + ")");
        }
        TestDatabase.execute("waterways", statements.toArray(String[]::new));
    }
}
