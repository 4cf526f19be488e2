package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.TestScope;
import tidybridge.core.definition.ModuleFormat;
import tidybridge.core.text.SourceText;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What others wrote down of an API, and samples of answers, become texts over tables that know nothing of it. */
class DraftFromDocumentTest {

    private static final Map<String, Object> EVERYBODY = Map.of("everybody", true);

    private static RunningService service;
    private static String stays = "";

    @BeforeAll
    static void make() throws Exception {
        stays = Files.readString(Path.of("src/test/resources/stays.yaml"));
        TestDatabase.execute("", "create or replace schema harbour character set utf8mb4");
        TestDatabase.execute(
                "harbour",
                "create table basin (id int primary key, name varchar(60) not null, town varchar(60) not null)",
                "create table berth (id int primary key, basin_id int not null references basin (id), berth_no varchar(8) not null,"
                        + " length_m decimal(5,2) not null, width_m decimal(4,2) null, has_power boolean not null, nightly_rate decimal(7,2) not null)",
                "create table skipper (id int primary key, name varchar(80) not null)",
                "create table vessel (id int primary key auto_increment, name varchar(60) not null, registration char(8) not null,"
                        + " length_m decimal(5,2) not null, beam_m decimal(4,2) not null, draught_m decimal(3,2) not null, built year null,"
                        + " skipper_id int not null, unique key registered_once (registration), constraint skipper_of_vessel foreign key (skipper_id) references skipper (id))",
                "insert into basin values (1, 'Heron Pool', 'Marrowby')",
                "insert into skipper values (1, 'Ada Reed')",
                "insert into berth values (1, 1, 'A1', 12.5, 4, true, 18.00), (2, 1, 'A2', 8, null, false, 9.50)");
        service = RunningService.withSource("harbour", "select, insert, update, delete");
    }

    @AfterAll
    static void drop() throws Exception {
        service.close();
        TestDatabase.execute("", "drop schema harbour");
    }

    private static HttpResponse<String> asked(String source, String module, Map<String, ?> document) throws Exception {
        return service.post(
                "/desk/first-texts",
                Map.of(
                        "source",
                        source,
                        "module",
                        module,
                        "reads",
                        EVERYBODY,
                        "changes",
                        EVERYBODY,
                        "document",
                        document));
    }

    private static JsonNode drafted(String source, String module, Map<String, ?> document) throws Exception {
        HttpResponse<String> response = asked(source, module, document);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        JsonNode draft = RunningService.json(response);
        String yaml = draft.path("text").path("files").path("module.yaml").asString();
        assertThat(ModuleFormat.of(new SourceText("module.yaml", yaml)))
                .as("as the formatter writes it")
                .isEqualTo(yaml);
        return draft;
    }

    private static Map<String, Object> openApi(String text, Map<?, ?>... matches) {
        return Map.of("kind", "openapi", "text", text, "matches", List.of(matches));
    }

    private static List<String> errors(JsonNode draft) {
        return draft.path("findings")
                .valueStream()
                .filter(finding -> finding.path("severity").asString().equals("error"))
                .map(finding -> finding.path("code").asString() + " "
                        + finding.path("operation").asString("") + " "
                        + finding.path("message").asString())
                .toList();
    }

    private static Map<String, String> columns(JsonNode draft, String operation) {
        Map<String, String> columns = new LinkedHashMap<>();
        for (JsonNode one : draft.path("document").path("operations")) {
            if (one.path("operation").asString().equals(operation)) {
                columns.put("", one.path("table").asString());
                one.path("names")
                        .forEach(name -> columns.put(
                                name.path("name").asString(),
                                name.path("column").asString()));
            }
        }
        return columns;
    }

    private static String publish(String module, JsonNode draft) throws Exception {
        HttpResponse<String> published =
                service.post("/desk/releases", Map.of("note", "drafted", "modules", List.of(draft.path("text"))));
        assertThat(published.statusCode())
                .as(published.body() + "\n" + draft.path("text").path("files"))
                .isEqualTo(200);
        return "/api/" + module + "/v1";
    }

    @Test
    void operationsAreMatchedToTablesByTheirNames() throws Exception {
        JsonNode draft = drafted("harbour", Callers.fresh("stays"), openApi(stays));

        assertThat(draft.path("document").path("title").asString()).isEqualTo("Stays");
        assertThat(columns(draft, "GET /berths"))
                .containsEntry("", "berth")
                .containsEntry("berthNo", "berth_no")
                .containsEntry("basin.name", "basin.name")
                .containsEntry("basinId", "basin_id")
                .containsEntry("minLengthM", "length_m")
                .containsEntry("lastSurvey", "");
        assertThat(columns(draft, "POST /vessels")).containsEntry("skipper.name", "skipper.name");
        assertThat(columns(draft, "DELETE /vessels/{vesselId}")).containsEntry("vesselId", "id");
        assertThat(columns(draft, "GET /places/{placeId}")).containsEntry("", "");
        assertThat(columns(draft, "POST /vessels/{vesselId}/inspect")).containsEntry("", "");

        assertThat(errors(draft))
                .hasSize(3)
                .anyMatch(error -> error.startsWith("promise-unkept GET /berths The field 'lastSurvey' is promised"))
                .anyMatch(error -> error.startsWith("statement-empty GET /places/{placeId}"))
                .anyMatch(error -> error.startsWith("statement-empty POST /vessels/{vesselId}/inspect"));
        HttpResponse<String> tried =
                service.post("/desk/trials", Map.of("module", draft.path("text"), "method", "GET", "path", "/berths"));
        assertThat(RunningService.json(tried).path("answer").path("status").asInt())
                .as("whoever writes tries before the promise is kept: " + tried.body())
                .isEqualTo(200);
        assertThat(draft.path("text")
                        .path("files")
                        .path("vessels-vesselid-inspect-post.sql")
                        .asString())
                .contains("-- To be written", "--   when: date-time", ":x_yard");
    }

    @Test
    void whatTheDocumentToldIsWhatCallersGet() throws Exception {
        String module = Callers.fresh("stays");
        String promised = stays.replaceAll("(?s)  /vessels/\\{vesselId}/inspect:.*?components:", "components:")
                .replaceAll("            lastSurvey: .*\n", "");
        JsonNode draft = drafted(
                "harbour",
                module,
                openApi(
                        promised,
                        Map.of(
                                "operation",
                                "GET /places/{placeId}",
                                "table",
                                "berth",
                                "columns",
                                Map.of(
                                        "placeId",
                                        "id",
                                        "place",
                                        "berth_no",
                                        "lengthM",
                                        "length_m",
                                        "town",
                                        "basin.town"))));
        assertThat(errors(draft)).isEmpty();
        String api = publish(module, draft);

        assertThat(service.get(api + "/places/1").body())
                .isEqualTo("{\"place\":\"A1\",\"lengthM\":12.50,\"town\":\"Marrowby\"}");
        assertThat(RunningService.json(service.get(api + "/berths?minLengthM=9&hasPower=true"))
                        .path("data")
                        .toString())
                .isEqualTo(
                        "[{\"lengthM\":12.5,\"widthM\":4.0,\"id\":1,\"berthNo\":\"A1\",\"hasPower\":true,\"nightlyRate\":18.0,"
                                + "\"basin\":{\"name\":\"Heron Pool\",\"town\":\"Marrowby\"}}]");

        String vessel =
                "{\"name\":\"Otter\",\"registration\":\"MW-10001\",\"lengthM\":9.5,\"beamM\":3,\"draughtM\":1,\"skipperId\":1}";
        HttpResponse<String> made = service.send("POST", api + "/vessels", vessel);
        assertThat(made.statusCode()).as(made.body()).isEqualTo(201);
        JsonNode row = RunningService.json(made);
        assertThat(row.path("skipper").path("name").asString()).isEqualTo("Ada Reed");
        String place = made.headers().firstValue("Location").orElseThrow();
        assertThat(place).isEqualTo(api + "/vessels/" + row.path("id").asString());
        assertThat(RunningService.json(service.get(place))).isEqualTo(row);

        assertThat(service.send("POST", api + "/vessels", vessel).statusCode()).isEqualTo(409);
        assertThat(service.send(
                                "POST",
                                api + "/vessels",
                                vessel.replace("10001", "10002").replace("\"skipperId\":1", "\"skipperId\":7"))
                        .statusCode())
                .isEqualTo(422);
        assertThat(service.send("POST", api + "/vessels", vessel.replace("9.5", "0"))
                        .statusCode())
                .isEqualTo(400);

        JsonNode changed = RunningService.json(
                service.send("PATCH", place, "{\"built\":1987}", "Content-Type", "application/merge-patch+json"));
        assertThat(changed.path("built").asInt()).isEqualTo(1987);
        assertThat(changed.path("name").asString()).isEqualTo("Otter");
        assertThat(service.send("DELETE", place, "").statusCode()).isEqualTo(204);
        assertThat(service.get(place).statusCode()).isEqualTo(404);
    }

    /** What the service tells of its own modules is a document, too, and matching finds the tables again that they were made from. */
    @Test
    void theReferenceOfEveryDraftedTableIsADocument() throws Exception {
        String module = Callers.fresh("register");
        List<String> tables = List.of("basin", "berth", "skipper", "vessel");
        HttpResponse<String> first = service.post(
                "/desk/first-texts",
                Map.of(
                        "source",
                        "harbour",
                        "module",
                        module,
                        "reads",
                        EVERYBODY,
                        "changes",
                        EVERYBODY,
                        "tables",
                        tables.stream().map(name -> Map.of("name", name)).toList()));
        String api = publish(module, RunningService.json(first));
        for (String form : List.of("openapi.json", "openapi.yaml")) {
            JsonNode again = drafted(
                    "harbour",
                    Callers.fresh("again"),
                    openApi(service.get(api + "/" + form).body()));
            assertThat(again.path("document").path("operations"))
                    .as(form)
                    .allSatisfy(
                            operation -> assertThat(operation.path("operation").asString())
                                    .contains("/" + operation.path("table").asString()));
            assertThat(errors(again)).as(form).isEmpty();
        }
    }

    @Test
    void manyOperationsAreMatchedInSeconds() throws Exception {
        int operations = TestScope.ALL ? 1_000 : 300;
        String paths = IntStream.range(0, operations)
                .mapToObj(
                        i -> "  /berths" + i
                                + ":\n    get: { responses: { '200': { content: { application/json: { schema: { type: array, items: { $ref: '#/components/schemas/B' } } } } } } }\n")
                .collect(Collectors.joining());
        String document = "openapi: 3.1.0\npaths:\n" + paths + """
                components:
                  schemas:
                    B: { properties: { id: { type: integer }, berthNo: { type: string }, lengthM: { type: number }, basin: { properties: { name: { type: string } } } } }
                """;
        long before = System.nanoTime();
        JsonNode draft = drafted("harbour", Callers.fresh("many"), openApi(document));
        assertThat(Duration.ofNanos(System.nanoTime() - before)).isLessThan(Until.BOUND);
        assertThat(draft.path("operations")).hasSize(operations);
        assertThat(errors(draft)).isEmpty();
    }

    @Test
    void aSampleIsMatchedAndGetsTheUsualOperations() throws Exception {
        String module = Callers.fresh("sampled");
        JsonNode draft = drafted(
                "harbour",
                module,
                Map.of(
                        "kind",
                        "sample",
                        "path",
                        "/vessels",
                        "text",
                        "[{\"id\":1,\"name\":\"Otter\",\"registration\":\"MW-1\",\"lengthM\":9.5,\"beamM\":3.1,\"draughtM\":1.2,\"built\":null,\"skipperId\":1},"
                                + "{\"id\":2,\"name\":\"Heron\",\"registration\":\"MW-2\",\"lengthM\":9,\"beamM\":3.1,\"draughtM\":1.2,\"built\":1999,\"skipperId\":1}]"));
        assertThat(draft.path("operations").valueStream().map(JsonNode::asString))
                .containsExactly(
                        "GET /vessels",
                        "POST /vessels",
                        "GET /vessels/{id}",
                        "PATCH /vessels/{id}",
                        "DELETE /vessels/{id}");
        assertThat(errors(draft)).isEmpty();
        String api = publish(module, draft);
        HttpResponse<String> made = service.send(
                "POST",
                api + "/vessels",
                "{\"name\":\"Ibis\",\"registration\":\"MW-3\",\"lengthM\":7,\"beamM\":2.5,\"draughtM\":0.8,\"skipperId\":1}");
        assertThat(made.statusCode()).as(made.body()).isEqualTo(201);
        String place = made.headers().firstValue("Location").orElseThrow();
        assertThat(RunningService.json(service.send("PATCH", place, "{\"lengthM\":7.25}"))
                        .path("lengthM")
                        .asString())
                .isEqualTo("7.25");
        assertThat(service.get(api + "/vessels").body()).contains("\"registration\":\"MW-3\"");
        assertThat(service.send("DELETE", place, "").statusCode()).isEqualTo(204);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '~', textBlock = """
            openapi | swagger: '2.0'        |          | version 2
            openapi | {"openapi":"3.1.0",   |          | as JSON at line 1
            sample  | []                    | /things  | holds no row
            sample  | [{"a":1}]             | things   | as in /berths
            openapi |                       |          | needs its 'text'
            strange | a                     |          | openapi or sample
            """)
    void whatIsNoDocumentIsOneSentence(String kind, String text, String path, String words) throws Exception {
        Map<String, Object> document = new LinkedHashMap<>(Map.of("kind", kind, "text", text == null ? "" : text));
        if (path != null) {
            document.put("path", path);
        }
        HttpResponse<String> answer = asked("harbour", "none", document);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(400);
        assertThat(RunningService.json(answer).path("detail").asString()).contains(words);
    }

    @Test
    void aMatchThatNamesNothingIsOneSentence() throws Exception {
        List<Map<String, ?>> wrong = new ArrayList<>();
        wrong.add(Map.of("operation", "GET /berths", "table", "gone"));
        wrong.add(Map.of("operation", "GET /berths", "table", "berth", "columns", Map.of("id", "gone")));
        for (Map<String, ?> match : wrong) {
            HttpResponse<String> answer = asked("harbour", "none", openApi(stays, match));
            assertThat(answer.statusCode()).as(answer.body()).isEqualTo(404);
            assertThat(RunningService.json(answer).path("detail").asString()).contains("'gone'");
        }
    }

    /** Whatever is broken in a document, the answer is a text or one sentence. */
    @Test
    void brokenDocumentsNeverFail() throws Exception {
        String json = JsonMapper.shared()
                .writeValueAsString(RunningService.json(service.get("/api/" + published() + "/v1/openapi.json")));
        Random random = new Random(20310501);
        for (int round = 0; round < 60; round++) {
            StringBuilder broken = new StringBuilder(round % 2 == 0 ? json : stays);
            for (int change = 0; change < 1 + round / 6; change++) {
                int at = random.nextInt(broken.length());
                switch (random.nextInt(4)) {
                    case 0 -> broken.delete(at, Math.min(broken.length(), at + 1 + random.nextInt(30)));
                    case 1 -> broken.setCharAt(at, "{}[]:,\"'\n\u0000é#&*".charAt(random.nextInt(14)));
                    case 2 -> broken.insert(at, "$ref");
                    default -> broken.insert(at, broken.substring(at, Math.min(broken.length(), at + 80)));
                }
            }
            HttpResponse<String> answer = asked("harbour", "broken", openApi(broken.toString()));
            assertThat(answer.statusCode()).as(broken + "\n" + answer.body()).isIn(200, 400);
        }
    }

    private static String published() throws Exception {
        String module = Callers.fresh("told");
        publish(
                module,
                drafted(
                        "harbour",
                        module,
                        Map.of(
                                "kind",
                                "sample",
                                "path",
                                "/basins",
                                "text",
                                "[{\"id\":1,\"name\":\"a\",\"town\":\"b\"}]")));
        return module;
    }
}
