package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** Walking all pages of a collection gives exactly the rows of one query in its order: for every type, collation, null, tie and direction. */
class OrderWalkTest {

    private static final int ROWS = 50;
    private static final int LIMIT = 6;
    private static final Random RANDOM = new Random(20_310_501);

    /** A column type and values of it as SQL writes them, out of which rows are drawn; null is drawn too where the column allows it. */
    private record Ordered(String type, String... values) {
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

    private static final List<Ordered> COLUMNS = List.of(
            new Ordered("enum('zeta','alpha','mid') not null", "'zeta'", "'alpha'", "'mid'"),
            new Ordered("enum('Ö','a','','10','9')", "'Ö'", "'a'", "''", "'10'", "'9'"),
            new Ordered("set('oak','iron','elm')", "''", "'oak'", "'iron'", "'oak,iron'", "'elm'", "'oak,elm'"),
            new Ordered("set(" + members(64) + ")", "'m1'", "'m64'", "'m63'", "'m1,m64'", "''"),
            new Ordered("tinyint(1) not null", "-1", "0", "1", "2"),
            new Ordered("tinyint unsigned", "0", "255", "127"),
            new Ordered("bigint", "-9223372036854775808", "9223372036854775807", "0", "-1"),
            new Ordered("bigint unsigned", "18446744073709551615", "9223372036854775808", "0", "1"),
            new Ordered("decimal(38,10)", "1234567890123456789012345678.0123456789", "-1", "0", "0.0000000001"),
            new Ordered("float", "0.1", "1.5e-38", "-3.4e38", "16777216", "0"),
            new Ordered("double not null", "0.1", "0.30000000000000004", "-1e300", "4.9e-300", "0"),
            new Ordered("bit(1)", "b'0'", "b'1'"),
            new Ordered("bit(12)", "b'0'", "b'101000000001'", "b'1'"),
            new Ordered("bit(64) not null", "0", "0xFFFFFFFFFFFFFFFF", "0x8000000000000000", "1"),
            new Ordered("char(8) collate utf8mb4_general_ci", TEXTS),
            new Ordered("varchar(60) collate utf8mb4_unicode_ci not null", TEXTS),
            new Ordered("varchar(60) collate utf8mb4_uca1400_as_cs", TEXTS),
            new Ordered("varchar(60) collate utf8mb4_bin", TEXTS),
            new Ordered("varchar(60) collate utf8mb4_nopad_bin", TEXTS),
            new Ordered("varchar(60) collate utf8mb4_german2_ci", TEXTS),
            new Ordered("varchar(60) collate utf8mb4_swedish_ci", TEXTS),
            new Ordered("varchar(60) character set latin1 collate latin1_german2_ci", LATIN),
            new Ordered("varchar(60) character set latin1 collate latin1_general_cs", LATIN),
            new Ordered("varchar(60) character set utf16", TEXTS),
            new Ordered("varchar(60) character set cp1251", "'а'", "'Б'", "'б'", "'z'"),
            new Ordered("tinytext", TEXTS),
            new Ordered(
                    "date",
                    "'2031-05-01'",
                    "'1000-01-01'",
                    "'0000-00-00'",
                    "'2020-00-00'",
                    "'2020-05-00'",
                    "'9999-12-31'"),
            new Ordered("time", "'12:30:00'", "'-838:59:59'", "'838:59:59'", "'00:00:00'"),
            new Ordered("time(3)", "'12:30:00.125'", "'-00:00:00.001'", "'12:30:00.124'"),
            new Ordered(
                    "datetime",
                    "'2031-05-01 12:30:00'",
                    "'0000-00-00 00:00:00'",
                    "'2020-00-05 01:02:03'",
                    "'2031-05-01 12:30:01'"),
            new Ordered(
                    "datetime(6) not null",
                    "'2031-05-01 12:30:00.000125'",
                    "'2031-05-01 12:30:00.000124'",
                    "'1000-01-01'"),
            new Ordered(
                    "timestamp(3) null",
                    "'2031-05-01 12:30:00.001'",
                    "'2031-03-30 02:30:00'",
                    "'1970-01-01 00:00:01'",
                    "0"),
            new Ordered("year", "2031", "1901", "0"),
            new Ordered("binary(4)", "x'00FF10AB'", "x'00000000'", "x'FFFFFFFF'", "x'61'"),
            new Ordered("varbinary(20) not null", "x''", "x'00'", "x'0000'", "x'FF'", "x'6120'", "x'61'"),
            new Ordered("tinyblob", "x''", "x'00'", "x'0000'", "x'FF'"),
            new Ordered(
                    "uuid",
                    "'1b4e28ba-2fa1-4d2e-883f-0016d3cca427'",
                    "'1b4e28ba-2fa1-1d2e-883f-0016d3cca427'",
                    "'00000000-0000-0000-0000-000000000000'",
                    "'ffffffff-2fa1-1d2e-883f-0016d3cca427'"),
            new Ordered("inet4", "'192.0.2.7'", "'9.0.2.7'", "'192.0.2.8'"),
            new Ordered("inet6", "'2001:db8::7'", "'::'", "'::ffff:192.0.2.1'"));

    /** A table and the order its rows are walked in. */
    private record Walk(int route, List<String> keys, String from) {
        @Override
        public String toString() {
            return String.join(", ", keys) + " of " + from;
        }
    }

    private static final List<Walk> WALKS = walks();

    private static RunningService service;

    private static String members(int count) {
        StringBuilder members = new StringBuilder("'m1'");
        for (int i = 2; i <= count; i++) {
            members.append(",'m").append(i).append('\'');
        }
        return members.toString();
    }

    private static List<Walk> walks() {
        List<Walk> walks = new ArrayList<>();
        for (int i = 0; i < COLUMNS.size(); i++) {
            walks.add(new Walk(walks.size(), List.of("c" + i, "id"), "select c" + i + ", id from every_order"));
            walks.add(
                    new Walk(walks.size(), List.of("c" + i + " desc", "id"), "select c" + i + ", id from every_order"));
        }
        for (int n = 0; n < 40; n++) {
            int one = RANDOM.nextInt(COLUMNS.size());
            int other = (one + 1 + RANDOM.nextInt(COLUMNS.size() - 1)) % COLUMNS.size();
            walks.add(new Walk(
                    walks.size(),
                    List.of("c" + one + direction(), "c" + other + direction(), "id" + direction()),
                    "select c" + one + ", c" + other + ", id from every_order"));
        }
        // what stands around a member decides whether it still is one
        walks.add(new Walk(
                walks.size(), List.of("c0", "n desc"), "select c0, count(*) as n from every_order group by c0"));
        walks.add(
                new Walk(walks.size(), List.of("top", "id"), "select max(c0) as top, id from every_order group by id"));
        walks.add(new Walk(walks.size(), List.of("top desc"), "select distinct c0 as top from every_order"));
        walks.add(new Walk(
                walks.size(),
                List.of("it", "id"),
                "select c0 as it, id from every_order union all select 'beta', id + 1000 from every_order"));
        walks.add(new Walk(
                walks.size(), List.of("it", "id desc"), "select coalesce(c1, 'none') as it, id from every_order"));
        return walks;
    }

    private static String direction() {
        return RANDOM.nextBoolean() ? " desc" : "";
    }

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        StringBuilder columns = new StringBuilder("create or replace table every_order (id int primary key");
        for (int i = 0; i < COLUMNS.size(); i++) {
            columns.append(", c").append(i).append(' ').append(COLUMNS.get(i).type());
        }
        List<String> statements =
                new ArrayList<>(List.of("set time_zone = '+00:00'", columns + ") default charset utf8mb4"));
        for (int id = 1; id <= ROWS; id++) {
            StringBuilder row = new StringBuilder("insert into every_order values (" + id);
            for (Ordered column : COLUMNS) {
                boolean isNull = column.nullable() && RANDOM.nextInt(6) == 0;
                row.append(", ").append(isNull ? "null" : column.values()[RANDOM.nextInt(column.values().length)]);
            }
            statements.add(row + ")");
        }
        TestDatabase.execute("waterways", statements.toArray(String[]::new));
        service.post("/desk/sources/waterways/refresh", Map.of());
        StringBuilder yaml = new StringBuilder("""
                module: orders
                version: 1.0.0
                title: Orders
                source: waterways
                public: true
                routes:
                """);
        Map<String, String> sql = new java.util.HashMap<>();
        for (Walk walk : WALKS) {
            sql.put(walk.route + ".sql", walk.from);
            yaml.append("""
                      /o%d:
                        get:
                          about: Walked
                          sql: %d.sql
                          answer: rows
                          order: [%s]
                    """.formatted(walk.route, walk.route, String.join(", ", walk.keys)));
        }
        var response = service.publish(yaml.toString(), sql);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table every_order");
    }

    static Stream<Walk> walked() {
        return WALKS.stream();
    }

    @ParameterizedTest
    @MethodSource("walked")
    void allPagesTogetherAreOneBigQuery(Walk walk) throws Exception {
        JsonNode all =
                service.json("/api/orders/v1/o" + walk.route + "?limit=200").path("data");
        List<String> whole = new ArrayList<>();
        all.forEach(row -> whole.add(row.toString()));
        String order = String.join(", ", walk.keys);
        List<String> counted = TestDatabase.column("select count(*) from (" + walk.from + ") as x");
        assertThat(whole).as(order).hasSize(Integer.parseInt(counted.getFirst()));
        List<String> found = new ArrayList<>();
        String next = "/api/orders/v1/o" + walk.route + "?limit=" + LIMIT;
        while (!next.isEmpty() && found.size() <= whole.size()) {
            JsonNode page = service.json(next);
            page.path("data").forEach(row -> found.add(row.toString()));
            next = page.at("/page/next").asString("");
        }
        assertThat(found).as(order).isEqualTo(whole);
    }
}
