package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.header;
import static tidybridge.service.Answered.problem;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.StringReader;
import java.math.BigDecimal;
import java.net.http.HttpClient;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.QuoteMode;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.Row;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The same rows in every notation, alone, in pages, and all at once. */
class FormatsTest {

    private static final int ROWS = 60;
    private static final int LONG = 60_000;
    private static final int FAILS_AT = 40_000;
    private static final JsonMapper EXACT = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .build();
    private static final String XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    private static RunningService service;

    @BeforeAll
    static void publish() throws Exception {
        service = SharedService.get();
        EveryType.make("every_format", ROWS, new Random(20_310_503));
        TestDatabase.execute(
                "waterways",
                "create or replace table odd_format (id int primary key, doc json, place point, note text)",
                "insert into odd_format values (1, '{\"a\": [1, \"=x\"]}', st_geomfromtext('POINT(1 2.5)'), concat('a', char(1), 'b\\nc')),"
                        + " (2, null, null, null), (3, '-1', null, repeat('long ', 10000))");
        service.post("/desk/sources/waterways/refresh", Map.of());
        String yaml = """
                module: written
                version: 1.0.0
                title: Written
                source: waterways
                public: true
                chosen-fields: true
                formats: [csv, ndjson, xlsx]
                page: { limit: 100, most: 100, all: true, most-all: 50 }
                routes:
                  /every:
                    get:
                      about: Every type
                      sql: every.sql
                      answer: rows
                      order: [id]
                      fields:
                        c3: { name: inside.c3 }
                        c8: { name: inside.deep.c8 }
                        c17: { mask: last-2 }
                  /every/{id}:
                    get:
                      about: One of them
                      sql: one.sql
                      answer: row
                      tag: representation
                      parameters: { id: { in: path, type: integer, example: 1 } }
                  /long:
                    get:
                      about: Many rows
                      sql: long.sql
                      answer: rows
                      order: [seq]
                      page: { most-all: 100000 }
                  /broken:
                    get:
                      about: Many rows until one cannot be told
                      sql: broken.sql
                      answer: rows
                      order: [seq]
                      page: { most-all: 100000 }
                  /odd:
                    get: { about: What tables have no cells for, sql: odd.sql, answer: rows, order: [id] }
                  /plain:
                    get:
                      about: Only JSON
                      sql: long.sql
                      answer: rows
                      order: [seq]
                      formats: []
                """;
        Map<String, String> sql = new HashMap<>();
        sql.put("every.sql", "select id, " + EveryType.NAMES + " from every_format");
        sql.put("one.sql", "select id, " + EveryType.NAMES + " from every_format where id = :id");
        sql.put("odd.sql", "select id, doc, place, note from odd_format");
        sql.put("long.sql", "select seq, concat('=row ', seq) as said from seq_1_to_" + LONG);
        sql.put(
                "broken.sql",
                "select seq, case when seq = " + FAILS_AT
                        + " then (select id from every_format) else seq end as told from seq_1_to_" + LONG);
        HttpResponse<String> response = service.publish(yaml, sql);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
    }

    @AfterAll
    static void drop() throws Exception {
        TestDatabase.execute("waterways", "drop table every_format", "drop table odd_format");
    }

    private static HttpResponse<String> get(String address, String... headers) throws Exception {
        HttpResponse<String> response = service.send("GET", "/api/written/v1" + address, "", headers);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return response;
    }

    private static byte[] bytes(String address) throws Exception {
        return HttpClient.newHttpClient()
                .send(service.request("/api/written/v1" + address).build(), HttpResponse.BodyHandlers.ofByteArray())
                .body();
    }

    private static List<JsonNode> data(String address) throws Exception {
        List<JsonNode> rows = new ArrayList<>();
        EXACT.readTree(get(address).body()).path("data").forEach(rows::add);
        return rows;
    }

    /** The leaves of a row by their names with dots. */
    private static Map<String, JsonNode> cells(JsonNode row) {
        Map<String, JsonNode> cells = new LinkedHashMap<>();
        row.properties().forEach(member -> {
            if (member.getKey().equals("inside") || member.getKey().equals("deep")) {
                cells(member.getValue()).forEach((name, value) -> cells.put(member.getKey() + "." + name, value));
            } else {
                cells.put(member.getKey(), member.getValue());
            }
        });
        return cells;
    }

    private static List<CSVRecord> csv(String text) throws IOException {
        // with this mode nothing and an empty text are told apart
        return CSVFormat.RFC4180
                .builder()
                .setNullString("")
                .setQuoteMode(QuoteMode.ALL_NON_NULL)
                .get()
                .parse(new StringReader(text))
                .getRecords();
    }

    @Test
    void linesOfJsonAreTheRowsOfJson() throws Exception {
        List<JsonNode> lines =
                get("/every?format=ndjson").body().lines().map(EXACT::readTree).toList();
        assertThat(lines).hasSize(ROWS).isEqualTo(data("/every"));
    }

    @Test
    void cellsOfCsvAreTheValuesOfJson() throws Exception {
        List<CSVRecord> records = csv(get("/every?format=csv").body());
        List<JsonNode> rows = data("/every");
        assertThat(records).hasSize(ROWS + 1);
        List<String> names = records.getFirst().toList();
        assertThat(names)
                .containsExactlyInAnyOrderElementsOf(cells(rows.getFirst()).keySet());
        for (int i = 0; i < ROWS; i++) {
            for (Map.Entry<String, JsonNode> cell : cells(rows.get(i)).entrySet()) {
                String text = records.get(i + 1).get(names.indexOf(cell.getKey()));
                assertThat(isSame(cell.getValue(), text))
                        .as("row %d, %s: %s in JSON, %s", i, cell.getKey(), cell.getValue(), text)
                        .isTrue();
            }
        }
    }

    private static boolean isSame(JsonNode json, @Nullable String text) {
        if (json.isNull() || text == null) {
            return json.isNull() && text == null;
        }
        if (json.isNumber()) {
            return json.decimalValue().compareTo(new BigDecimal(text)) == 0;
        }
        return json.asString().equals(text.startsWith("'") ? text.substring(1) : text);
    }

    @Test
    void cellsOfASpreadsheetAreTheValuesOfJson() throws Exception {
        List<JsonNode> rows = data("/every");
        try (ReadableWorkbook book = new ReadableWorkbook(new ByteArrayInputStream(bytes("/every?format=xlsx")))) {
            List<Row> sheet = book.getFirstSheet().read();
            assertThat(sheet).hasSize(ROWS + 1);
            List<String> names = sheet.getFirst().stream().map(Cell::asString).toList();
            for (int i = 0; i < ROWS; i++) {
                for (Map.Entry<String, JsonNode> cell : cells(rows.get(i)).entrySet()) {
                    Cell written = sheet.get(i + 1)
                            .getOptionalCell(names.indexOf(cell.getKey()))
                            .orElse(null);
                    assertThat(isSame(cell.getValue(), written))
                            .as("row %d, %s: %s in JSON, %s", i, cell.getKey(), cell.getValue(), written)
                            .isTrue();
                }
            }
        }
    }

    private static boolean isSame(JsonNode json, @Nullable Cell cell) {
        if (json.isNull() || cell == null || cell.getType() == CellType.EMPTY) {
            return json.isNull() == (cell == null || cell.getType() == CellType.EMPTY)
                    || json.isString() && json.asString().isEmpty();
        }
        return switch (cell.getType()) {
            case STRING ->
                json.isNumber()
                        ? json.decimalValue().compareTo(new BigDecimal(cell.asString())) == 0
                        : json.asString().equals(cell.asString());
            case BOOLEAN -> json.booleanValue() == cell.asBoolean();
            case NUMBER ->
                json.isNumber()
                        ? json.doubleValue() == cell.asNumber().doubleValue()
                        : cell.asDate()
                                .equals(LocalDateTime.parse(
                                        json.asString().contains("T") ? json.asString() : json.asString() + "T00:00"));
            default -> false;
        };
    }

    /** JSON and shapes are texts there; what a spreadsheet cannot hold is seen to be missing. */
    @Test
    void whatTablesHaveNoCellsForIsText() throws Exception {
        List<CSVRecord> records = csv(get("/odd?format=csv").body());
        assertThat(records.get(1).toList())
                .containsExactly(
                        "1", "{\"a\": [1, \"=x\"]}", "{\"type\":\"Point\",\"coordinates\":[1,2.5]}", "a\u0001b\nc");
        assertThat(records.get(2).toList()).containsExactly("2", null, null, null);
        assertThat(records.get(3).get(1)).isEqualTo("'-1");
        try (ReadableWorkbook book = new ReadableWorkbook(new ByteArrayInputStream(bytes("/odd?format=xlsx")))) {
            List<Row> sheet = book.getFirstSheet().read();
            assertThat(sheet.get(1).getCellText(2)).isEqualTo("{\"type\":\"Point\",\"coordinates\":[1,2.5]}");
            assertThat(sheet.get(1).getCellText(3)).isEqualTo("a\ufffdb\nc");
            assertThat(sheet.get(3).getCellText(1)).isEqualTo("-1");
            assertThat(sheet.get(3).getCellText(3)).hasSize(32_767).endsWith("[cut: the text is longer than a cell]");
        }
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            text/csv                                   | text/csv
            text/csv; header=absent                    | text/csv
            application/x-ndjson                       | application/x-ndjson
            application/jsonl                          | application/x-ndjson
            application/json                           | application/json
            text/*                                     | text/csv
            */*                                        | application/json
            text/html, */*;q=0.8                       | application/json
            application/json;q=0.5, text/csv           | text/csv
            application/json;q=0, */*;q=0.1            | application/x-ndjson
            text/csv;q=0.9, application/jsonl;q=0.95   | application/x-ndjson
            """)
    void theAcceptFieldChooses(String accept, String type) throws Exception {
        for (String address : List.of("/every?limit=2", "/every/7")) {
            HttpResponse<String> response = get(address, "Accept", accept);
            assertThat(header(response, "Content-Type")).startsWith(type);
            assertThat(response.headers().allValues("Vary")).contains("Accept");
            assertThat(response.body().startsWith("id,"))
                    .isEqualTo(accept.equals("text/csv") || accept.equals("text/*") || accept.contains(", text/csv"));
        }
    }

    @Test
    void theAddressGoesBeforeTheAcceptField() throws Exception {
        HttpResponse<String> response =
                get("/every?limit=1&format=csv&header=absent&fields=id", "Accept", "application/json");
        assertThat(header(response, "Content-Type")).isEqualTo("text/csv;header=absent;charset=utf-8");
        assertThat(response.body()).isEqualTo("1\r\n");
        assertThat(header(response, "Content-Disposition")).startsWith("attachment; filename=\"every.csv\"");
    }

    @Test
    void whatIsNotOfferedIsRefused() throws Exception {
        problem(service.send("GET", "/api/written/v1/every", "", "Accept", "application/pdf"), 406, "text/csv", XLSX);
        problem(service.send("GET", "/api/written/v1/plain", "", "Accept", "text/csv"), 406, "application/json");
        problem(service.get("/api/written/v1/plain?format=csv"), 400, "'format' is not known here");
        problem(service.get("/api/written/v1/every?format=pdf"), 400, "'csv'");
        problem(service.get("/api/written/v1/every?header=no"), 400, "'absent'");
        problem(service.get("/api/written/v1/every?format=csv&format=csv"), 400, "more than once");
        problem(service.get("/api/written/v1/every?fields=id,,c1"), 400, "without a name");
        problem(service.get("/api/written/v1/every?fields=id,id"), 400, "twice");
        problem(service.get("/api/written/v1/every?fields=insider"), 400, "Did you mean 'inside'?");
    }

    @Test
    void objectsAreChosenAsAWhole() throws Exception {
        JsonNode whole = data("/every?limit=1").getFirst();
        JsonNode some = data("/every?limit=1&fields=inside.deep.c8,c17,id").getFirst();
        assertThat(some.propertyNames()).containsExactly("inside", "c17", "id");
        assertThat(some.at("/inside/deep")).isEqualTo(whole.at("/inside/deep"));
        assertThat(some.path("inside").propertyNames()).containsExactly("deep");
        assertThat(data("/every?limit=1&fields=inside").getFirst().path("inside"))
                .isEqualTo(whole.path("inside"));
        assertThat(RunningService.json(get("/every/7?fields=c1,c2")).propertyNames())
                .containsExactly("c1", "c2");
    }

    /** Fields that nobody chose do not move those that somebody did, nor the pages. */
    @Test
    void pagesOfChosenFieldsGoOn() throws Exception {
        List<String> read = new ArrayList<>();
        String address = "/every?limit=7&fields=c5,c0";
        while (address != null) {
            HttpResponse<String> page = get(address);
            JsonNode body = EXACT.readTree(page.body());
            body.path("data").forEach(row -> read.add(row.toString()));
            assertThat(body.path("page").path("last").asBoolean(false))
                    .isEqualTo(!body.path("page").has("next"));
            address = body.path("page").has("next")
                    ? body.path("page").path("next").asString().substring("/api/written/v1".length())
                    : null;
        }
        List<String> expected = new ArrayList<>();
        data("/every").forEach(row -> expected.add("{\"c5\":" + row.path("c5") + ",\"c0\":" + row.path("c0") + "}"));
        assertThat(read).isEqualTo(expected);
    }

    @Test
    void eachNotationHasATagOfItsOwn() throws Exception {
        String tag = header(get("/every/7"), "ETag");
        HttpResponse<String> csv = get("/every/7?format=csv", "If-None-Match", tag);
        assertThat(tag).isNotEmpty().isNotEqualTo(header(csv, "ETag"));
        assertThat(csv.body().lines().count()).isEqualTo(2);
        HttpResponse<String> again =
                service.send("GET", "/api/written/v1/every/7?format=csv", "", "If-None-Match", header(csv, "ETag"));
        assertThat(again.statusCode()).isEqualTo(304);
    }

    @Test
    void moreThanAllMayBeIsToldAndGoneOnWith() throws Exception {
        JsonNode page = EXACT.readTree(get("/every?limit=all").body()).path("page");
        assertThat(page.path("rows").asInt()).isEqualTo(50);
        assertThat(page.has("last")).isFalse();
        JsonNode rest = EXACT.readTree(get(page.path("next").asString().substring("/api/written/v1".length()))
                .body());
        assertThat(rest.path("data").size()).isEqualTo(ROWS - 50);
        assertThat(rest.path("page").path("last").asBoolean()).isTrue();
        HttpResponse<String> csv = get("/every?limit=all&format=csv");
        assertThat(header(csv, "Page-End")).isEqualTo("rows=50");
        assertThat(header(csv, "Link")).contains("limit=all&format=csv&after=").endsWith("rel=\"next\"");
        assertThat(header(get("/every?format=ndjson"), "Page-End")).isEqualTo("rows=" + ROWS + ", last");
    }

    /** What is sent while it is read ends with a trailer. */
    @ParameterizedTest
    @ValueSource(strings = {"csv", "ndjson"})
    void anExportSaysBehindItsRowsThatItIsWhole(String format) throws Exception {
        try (Wire wire = new Wire(service.port())) {
            wire.send("GET /api/written/v1/long?limit=all&format=" + format
                    + " HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n");
            String answer = wire.answer();
            assertThat(answer).contains("Trailer: Page-End, Link").contains("Transfer-Encoding: chunked");
            assertThat(answer).endsWith("\r\n0\r\nPage-End: rows=" + LONG + ", last\r\n\r\n");
            String whole = Wire.body(answer);
            assertThat(whole.lines().filter(line -> line.contains("=row "))).hasSize(LONG);
        }
    }

    @Test
    void anExportIsWholeInEveryNotation() throws Exception {
        assertThat(data("/long?limit=all")).hasSize(LONG);
        try (ReadableWorkbook book =
                new ReadableWorkbook(new ByteArrayInputStream(bytes("/long?limit=all&format=xlsx")))) {
            assertThat(book.getFirstSheet().read()).hasSize(LONG + 1);
        }
    }

    /** The rows end before their end: no reader takes what came for all of them. */
    @ParameterizedTest
    @ValueSource(strings = {"json", "ndjson", "csv", "xlsx"})
    void whatIsCutOffLooksCutOff(String format) throws Exception {
        byte[] came = cutOff("/api/written/v1/broken?limit=all&format=" + format);
        String text = new String(came, StandardCharsets.UTF_8);
        switch (format) {
            case "json" ->
                assertThat(text)
                        .startsWith("{\"data\":[")
                        .doesNotContain("\"page\"")
                        .doesNotEndWith("}]}");
            case "ndjson" -> assertThat(text).endsWith("{\"cutOff\": \"these rows end before the last one\"\n");
            case "csv" -> assertThat(text).endsWith("\r\n\"These rows end before the last one.");
            default -> assertThat(text).startsWith("PK").doesNotContain("PK\u0001\u0002");
        }
        if (!format.equals("xlsx")) {
            assertThat(text).contains(String.valueOf(FAILS_AT / 2)).doesNotContain("\n" + FAILS_AT + ",");
        }
    }

    /** What comes until the connection breaks, which it must. An HTTP library may keep the last of it to itself. */
    private static byte[] cutOff(String path) throws Exception {
        try (Wire wire = new Wire(service.port())) {
            wire.send("GET " + path + " HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n");
            String answer = wire.answer();
            assertThat(answer).as("the last chunk is missing").doesNotContain("\r\n0\r\n");
            return Wire.body(answer).getBytes(StandardCharsets.ISO_8859_1);
        }
    }
}
