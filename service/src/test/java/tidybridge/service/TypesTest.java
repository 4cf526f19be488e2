package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/**
 * Every type of MariaDB through the whole service: stored, answered, described in the reference, and where callers can send it, found
 * again by what was answered. Writes docs/types.md when the property {@code tidy.write} is set; otherwise the file must say the same.
 */
class TypesTest {

    private static final Path DOCUMENT = Path.of("..", "docs", "types.md");

    /** A column type, a value as SQL writes it, the JSON it must become, and the parameter's type that finds it again. */
    private record Type(String column, String sql, String json, String parameter) {}

    private static final List<Type> TYPES = List.of(
            new Type("tinyint", "-128", "-128", "integer"),
            new Type("tinyint unsigned", "255", "255", "integer"),
            new Type("boolean", "true", "true", "boolean"),
            new Type("smallint", "-32768", "-32768", "integer"),
            new Type("mediumint unsigned", "16777215", "16777215", "integer"),
            new Type("int", "-2147483648", "-2147483648", "integer"),
            new Type("int(5) unsigned zerofill", "42", "42", "integer"),
            new Type("bigint", "-9223372036854775808", "-9223372036854775808", "integer"),
            new Type("bigint unsigned", "18446744073709551615", "18446744073709551615", "integer"),
            new Type(
                    "decimal(38,10)",
                    "1234567890123456789012345678.0123456789",
                    "1234567890123456789012345678.0123456789",
                    "number"),
            new Type("decimal(9,2) unsigned", "0.10", "0.10", "number"),
            new Type("float", "0.5", "0.5", "number"),
            new Type("double", "2.5e100", "2.5E100", ""),
            new Type("bit(1)", "b'1'", "true", "boolean"),
            new Type("bit(12)", "b'101000000001'", "2561", "integer"),
            new Type("bit(64)", "0xFFFFFFFFFFFFFFFF", "18446744073709551615", ""),
            new Type("char(8)", "'MW-10084'", "\"MW-10084\"", "string"),
            new Type("varchar(60)", "'Cooper''s Reach \"é\" 🚤'", "\"Cooper's Reach \\\"é\\\" 🚤\"", "string"),
            new Type("text", "'two\\nlines'", "\"two\\nlines\"", "string"),
            new Type("enum('up','down')", "'down'", "\"down\"", "string"),
            new Type("set('oak','iron')", "'oak,iron'", "\"oak,iron\"", "string"),
            new Type("date", "'2031-05-01'", "\"2031-05-01\"", "date"),
            new Type("time", "'12:30:00'", "\"12:30:00\"", "time"),
            new Type("time(3)", "'838:59:58.125'", "\"838:59:58.125\"", ""),
            new Type("datetime", "'2031-05-01 12:30:00'", "\"2031-05-01T12:30:00\"", "date-time-local"),
            new Type(
                    "datetime(6)", "'2031-05-01 12:30:00.000125'", "\"2031-05-01T12:30:00.000125\"", "date-time-local"),
            new Type("datetime(3)", "'2031-05-01 12:30:00.001'", "\"2031-05-01T12:30:00.001\"", "date-time-local"),
            new Type("timestamp(2)", "'2031-05-01 12:30:00.01'", "\"2031-05-01T12:30:00.01Z\"", "date-time"),
            new Type("timestamp", "'2031-05-01 12:30:00'", "\"2031-05-01T12:30:00Z\"", "date-time"),
            new Type("year", "2031", "2031", "integer"),
            new Type("json", "'{\"a\": [1, 2.50, null]}'", "{\"a\": [1, 2.50, null]}", ""),
            new Type("binary(4)", "x'00FF10AB'", "\"AP8Qqw==\"", "byte"),
            new Type("varbinary(20)", "x'00FF'", "\"AP8=\"", "byte"),
            new Type("blob", "x'48656C6C6F'", "\"SGVsbG8=\"", "byte"),
            new Type(
                    "uuid",
                    "'1b4e28ba-2fa1-4d2e-883f-0016d3cca427'",
                    "\"1b4e28ba-2fa1-4d2e-883f-0016d3cca427\"",
                    "uuid"),
            new Type("inet4", "'192.0.2.7'", "\"192.0.2.7\"", "string"),
            new Type("inet6", "'2001:db8::7'", "\"2001:db8::7\"", "string"),
            new Type(
                    "point", "st_geomfromtext('POINT(-1.5 53)')", "{\"type\":\"Point\",\"coordinates\":[-1.5,53]}", ""),
            new Type(
                    "linestring",
                    "st_geomfromtext('LINESTRING(0 0, 1 2)')",
                    "{\"type\":\"LineString\",\"coordinates\":[[0,0],[1,2]]}",
                    ""),
            new Type(
                    "polygon",
                    "st_geomfromtext('POLYGON((0 0, 4 0, 4 4, 0 0))')",
                    "{\"type\":\"Polygon\",\"coordinates\":[[[0,0],[4,0],[4,4],[0,0]]]}",
                    ""),
            new Type(
                    "multipolygon",
                    "st_geomfromtext('MULTIPOLYGON(((0 0, 1 0, 1 1, 0 0)))')",
                    "{\"type\":\"MultiPolygon\",\"coordinates\":[[[[0,0],[1,0],[1,1],[0,0]]]]}",
                    ""),
            new Type(
                    "geometrycollection",
                    "st_geomfromtext('GEOMETRYCOLLECTION(POINT(1 2), LINESTRING(0 0, 1 1))')",
                    "{\"type\":\"GeometryCollection\",\"geometries\":[{\"type\":\"Point\",\"coordinates\":[1,2]},{\"type\":\"LineString\",\"coordinates\":[[0,0],[1,1]]}]}",
                    ""));

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        service = SharedService.get();
        service.post("/desk/sources/waterways/refresh", Map.of());
        StringBuilder columns = new StringBuilder("create or replace table every_type (id int primary key");
        StringBuilder values = new StringBuilder("insert into every_type values (1");
        StringBuilder nulls = new StringBuilder("insert into every_type values (2");
        for (int i = 0; i < TYPES.size(); i++) {
            columns.append(", c")
                    .append(i)
                    .append(' ')
                    .append(TYPES.get(i).column)
                    .append(" null");
            values.append(", ").append(TYPES.get(i).sql);
            nulls.append(", null");
        }
        TestDatabase.execute("waterways", "set time_zone = '+00:00'", columns + ") default charset utf8mb4");
        TestDatabase.execute("waterways", values + ")", nulls + ")");
        assertThat(service.publish(yaml(), statements()).statusCode()).isEqualTo(200);
    }

    @AfterAll
    static void stop() throws Exception {
        TestDatabase.execute("waterways", "drop table every_type");
    }

    private static Map<String, String> statements() {
        Map<String, String> statements = new java.util.HashMap<>();
        StringBuilder all = new StringBuilder("select id");
        for (int i = 0; i < TYPES.size(); i++) {
            all.append(", c").append(i);
            statements.put("c" + i + ".sql", "select id from every_type where c" + i + " = :value limit 1");
        }
        statements.put("all.sql", all + " from every_type where id = :id");
        for (int i = 0; i < TYPES.size(); i++) {
            if (TYPES.get(i).parameter.isEmpty()) {
                statements.remove("c" + i + ".sql");
            }
        }
        return statements;
    }

    private static String yaml() {
        StringBuilder yaml = new StringBuilder("""
                module: types
                version: 1.0.0
                title: Types
                source: waterways
                public: true
                routes:
                  /all/{id}:
                    get:
                      about: All of them
                      sql: all.sql
                      answer: row
                      parameters:
                        id: { in: path, type: integer, example: 1 }
                """);
        for (int i = 0; i < TYPES.size(); i++) {
            if (!TYPES.get(i).parameter.isEmpty()) {
                yaml.append("""
                          /c%d:
                            post:
                              about: Found by its value
                              sql: c%d.sql
                              answer: value
                              parameters:
                                value: { in: body, pointer: /value, type: %s, required: true }
                        """.formatted(i, i, TYPES.get(i).parameter));
            }
        }
        return yaml.toString();
    }

    @Test
    void everyTypeIsAnsweredExactly() throws Exception {
        String body = service.get("/api/types/v1/all/1").body();
        for (int i = 0; i < TYPES.size(); i++) {
            assertThat(body).as(TYPES.get(i).column).contains("\"c" + i + "\":" + TYPES.get(i).json);
        }
        JsonNode nulls = service.json("/api/types/v1/all/2");
        for (int i = 0; i < TYPES.size(); i++) {
            assertThat(nulls.path("c" + i).isNull()).as(TYPES.get(i).column).isTrue();
        }
    }

    @Test
    void whatWasAnsweredFindsItsRowAgain() throws Exception {
        for (int i = 0; i < TYPES.size(); i++) {
            Type type = TYPES.get(i);
            if (!type.parameter.isEmpty()) {
                var response = RunningService.send(service.request("/api/types/v1/c" + i)
                        .header("Content-Type", "application/json")
                        .POST(java.net.http.HttpRequest.BodyPublishers.ofString("{\"value\":" + type.json + "}")));
                assertThat(response.body())
                        .as(type.column + " as " + type.parameter)
                        .isEqualTo("{\"value\":1}");
            }
        }
    }

    @Test
    void whatTheDataOrTheColumnForbidsIsFound() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table flags (id int primary key, fine tinyint(1) not null, odd tinyint(1) null, word varchar(9) not null default 'x')",
                "insert into flags values (1, 1, 2, 'a'), (2, 0, null, 'b'), (3, 1, -1, 'c')",
                "grant insert on waterways.flags to waterways_service@'127.0.0.1'");
        try {
            service.post("/desk/sources/waterways/refresh", Map.of());
            String yaml = """
                    module: flags
                    version: 1.0.0
                    title: Flags
                    source: waterways
                    public: true
                    routes:
                      /{id}:
                        get:
                          about: One
                          sql: one.sql
                          answer: row
                          parameters: { id: { in: path, type: integer, example: 1 } }
                        put:
                          about: Make one
                          sql: put.sql
                          answer: nothing
                          parameters: { id: { in: path, type: integer, example: 1 }, word: { in: body, type: string, maxLength: 9, example: x } }
                    """;
            Map<String, String> sql = Map.of(
                    "one.sql", "select id, fine, odd from flags where id = :id",
                    "put.sql", "insert into flags (id, fine, word) values (:id, true, :word)");
            assertThat(codes(yaml, sql)).contains("flag-holds-number odd", "parameter-optional-written word");
            String mended = yaml.replace("answer: row\n", "answer: row\n      fields: { odd: { as: integer } }\n");
            Map<String, String> defaulted = Map.of(
                    "one.sql",
                    sql.get("one.sql"),
                    "put.sql",
                    "insert into flags (id, fine, word) values (:id, true, coalesce(:word, default(word)))");
            assertThat(codes(mended, defaulted)).noneMatch(code -> code.contains("flag-") || code.contains("written"));
            assertThat(service.publish(mended, defaulted).statusCode()).isEqualTo(200);
            assertThat(service.get("/api/flags/v1/1").body()).isEqualTo("{\"id\":1,\"fine\":true,\"odd\":2}");
            assertThat(service.get("/api/flags/v1/3").body()).isEqualTo("{\"id\":3,\"fine\":true,\"odd\":-1}");
            assertThat(service.send("PUT", "/api/flags/v1/4", "{}").statusCode())
                    .isEqualTo(204);
            assertThat(TestDatabase.column("select word from flags where id = 4"))
                    .containsExactly("x");
        } finally {
            TestDatabase.execute("waterways", "drop table flags");
        }
    }

    private static List<String> codes(String yaml, Map<String, String> statements) throws Exception {
        Map<String, String> files = new java.util.HashMap<>(statements);
        files.put("module.yaml", yaml);
        JsonNode checked = RunningService.json(service.post(
                "/desk/checks", Map.of("modules", List.of(Map.of("folder", "modules/flags", "files", files)))));
        return checked.path("findings")
                .valueStream()
                .map(finding -> finding.path("code").asString()
                        + " "
                        + finding.path("message").asString().replaceFirst("^[^']*'([^']*)'.*", "$1"))
                .toList();
    }

    @Test
    void aLocalTimeHasNoOffsetAndAMomentNeedsOne() throws Exception {
        int local = indexOf("datetime");
        int moment = indexOf("timestamp");
        assertThat(found(local, "2031-05-01T12:30:00")).isEqualTo("{\"value\":1}");
        assertThat(found(local, "2031-05-01T14:30:00+02:00")).contains("without an offset");
        assertThat(found(local, "2031-05-01T12:30:00Z")).contains("without an offset");
        for (String same : List.of("2031-05-01T12:30:00Z", "2031-05-01T14:30:00+02:00", "2031-05-01T06:00:00-06:30")) {
            assertThat(found(moment, same)).as(same).isEqualTo("{\"value\":1}");
        }
        assertThat(found(moment, "2031-05-01T12:30:00")).contains("with its offset");
        assertThat(found(moment, "2031-05-01T12:30:00 02:00")).contains("written as %2B");
        JsonNode reference = service.json("/api/types/v1/openapi.json");
        assertThat(sent(reference, local)).isEqualTo(answered(reference, local)).isEqualTo("date-time-local");
        assertThat(sent(reference, moment))
                .isEqualTo(answered(reference, moment))
                .isEqualTo("date-time");
    }

    private static int indexOf(String column) {
        return TYPES.stream().map(Type::column).toList().indexOf(column);
    }

    private static String found(int type, String value) throws Exception {
        return RunningService.send(service.request("/api/types/v1/c" + type)
                        .header("Content-Type", "application/json")
                        .POST(java.net.http.HttpRequest.BodyPublishers.ofString("{\"value\":\"" + value + "\"}")))
                .body();
    }

    private static String sent(JsonNode reference, int type) {
        return reference
                .path("paths")
                .path("/c" + type)
                .at("/post/requestBody/content/application~1json/schema/properties/value/format")
                .asString("");
    }

    private static String answered(JsonNode reference, int type) {
        return reference
                .at("/components/schemas/AllRow/properties/c" + type + "/format")
                .asString("");
    }

    @Test
    void theDocumentSaysTheSame() throws Exception {
        JsonNode properties = service.json("/api/types/v1/openapi.json").at("/components/schemas/AllRow/properties");
        List<String> lines = new ArrayList<>(List.of(
                "# Types",
                "",
                "How MariaDB's types travel. This table is written by a test that stores each value, calls the service for it, and, where callers can",
                "send the type, finds the row again by what was answered.",
                "",
                "| column | stored | answered | in the reference | parameter |",
                "|---|---|---|---|---|"));
        for (int i = 0; i < TYPES.size(); i++) {
            Type type = TYPES.get(i);
            lines.add("| "
                    + String.join(
                            " | ",
                            "`" + type.column + "`",
                            code(type.sql),
                            code(type.json),
                            described(properties.path("c" + i)),
                            type.parameter.isEmpty() ? "" : "`" + type.parameter + "`")
                    + " |");
        }
        lines.addAll(List.of(
                "",
                "- Whole numbers and decimals are exact, whatever their size. For callers whose numbers are not, `as: text` under `fields:` writes them as",
                "  strings.",
                "- A `timestamp` is a moment and carries `Z`; sessions speak UTC, and a `date-time` that meets it must have an offset. A `datetime` is a local",
                "  time: it has no zone, and neither has the `date-time-local` that meets it.",
                "- A date that no calendar has, such as `0000-00-00` or `2020-00-00`, is written as it is stored.",
                "- A `time` may be a span beyond a day; it is written as the database has it.",
                "- `json` is embedded as it is stored. Binary is base64 (RFC 4648). A geometry is GeoJSON (RFC 7946) with its coordinates as stored.",
                "- NULL is `null` for every type.",
                ""));
        String text = String.join("\n", lines);
        if (Boolean.getBoolean("tidy.write")) {
            Files.writeString(DOCUMENT, text);
        }
        assertThat(Files.readString(DOCUMENT)).isEqualTo(text);
    }

    private static String code(String text) {
        return "`" + text.replace("|", "\\|") + "`";
    }

    /** The schema in a few words. */
    private static String described(JsonNode schema) {
        JsonNode type = schema.path("type");
        String name = type.isArray() ? type.get(0).asString() : type.asString("anything");
        String format =
                schema.path("format").asString(schema.path("contentEncoding").asString(""));
        return format.isEmpty() ? name : name + ", " + format;
    }
}
