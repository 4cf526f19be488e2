package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tidybridge.core.Cost;
import tidybridge.core.TestScope;
import tidybridge.core.definition.ModuleFormat;
import tidybridge.core.text.SourceText;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** From every table a text is drafted that is published as it is, and each of its operations is called. */
class DraftFromTablesTest {

    private static final int MANY = TestScope.ALL ? 200 : 100;

    /** A passage for which no toll was charged. */
    private static final int UNCHARGED = 900_001;

    private static final Map<String, Object> EVERYBODY = Map.of("everybody", true);

    private static RunningService service;

    @BeforeAll
    static void make() throws Exception {
        List<String> statements = new ArrayList<>(List.of("create or replace schema wide character set utf8mb4"));
        for (String statement :
                Files.readString(Path.of("src/test/resources/wide-schema.sql")).split(";\\s*\n")) {
            statements.add(statement.replaceAll("(?m)^--.*$", "").strip());
        }
        statements.removeIf(String::isEmpty);
        TestDatabase.execute("", statements.removeFirst());
        TestDatabase.execute("wide", statements.toArray(String[]::new));
        TestDatabase.execute(
                "wide",
                IntStream.range(0, MANY)
                        .mapToObj(i -> "create table many_" + i
                                + " (id int primary key auto_increment, label varchar(20) not null, amount decimal(8,2) null,"
                                + " parent_id int null, index (label), foreign key (parent_id) references parent (id))")
                        .toArray(String[]::new));
        TestDatabase.execute(
                "",
                "grant select, insert, update, delete on " + DemoDatabase.SOURCE_SCHEMA + ".* to "
                        + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        TestDatabase.execute(
                DemoDatabase.SOURCE_SCHEMA,
                "replace into lock_passage (id, lock_id, vessel_id, passed_at, direction, wait_minutes) values ("
                        + UNCHARGED + ", 1, 1, '2031-05-01', 'up', 0)");
        service = RunningService.withSource("wide", "select, insert, update, delete, execute, show view");
    }

    @AfterAll
    static void drop() throws Exception {
        service.close();
        TestDatabase.execute(
                "",
                "revoke insert, update, delete on " + DemoDatabase.SOURCE_SCHEMA + ".* from " + DemoDatabase.SOURCE_USER
                        + "@'127.0.0.1'");
        TestDatabase.execute("", "drop schema wide");
    }

    private static JsonNode drafted(String source, String module, String... tables) throws Exception {
        List<Map<String, Object>> chosen = new ArrayList<>();
        for (String table : tables) {
            chosen.add(Map.of("name", table));
        }
        HttpResponse<String> response = service.post(
                "/desk/first-texts",
                Map.of("source", source, "module", module, "reads", EVERYBODY, "changes", EVERYBODY, "tables", chosen));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    /** The notes on what could not be made, by their tables. */
    private static List<String> notes(JsonNode draft) {
        return draft.path("notes")
                .valueStream()
                .map(note -> note.path("words").asString())
                .toList();
    }

    private static List<String> operations(JsonNode draft) {
        return draft.path("operations").valueStream().map(JsonNode::asString).toList();
    }

    private static void publish(JsonNode draft) throws Exception {
        String yaml = draft.path("text").path("files").path("module.yaml").asString();
        List<String> errors = draft.path("findings")
                .valueStream()
                .filter(finding -> finding.path("severity").asString().equals("error"))
                .map(JsonNode::toString)
                .toList();
        assertThat(errors).as(yaml).isEmpty();
        HttpResponse<String> published =
                service.post("/desk/releases", Map.of("note", "drafted", "modules", List.of(draft.path("text"))));
        assertThat(published.statusCode()).as(published.body() + "\n" + yaml).isEqualTo(200);
    }

    static List<String> tables() throws Exception {
        String demo =
                new String(DemoDatabase.class.getResourceAsStream("schema.sql").readAllBytes(), StandardCharsets.UTF_8);
        String wide = Files.readString(Path.of("src/test/resources/wide-schema.sql"));
        return Stream.concat(names(demo, "waterways."), names(wide, "wide.")).toList();
    }

    private static Stream<String> names(String script, String before) {
        return Pattern.compile("(?m)^create table (`[^`]+`|\\w+) \\(")
                .matcher(script)
                .results()
                .map(found -> before + found.group(1).replace("`", ""));
    }

    /** Tables of which not everything is possible, and a word of why. */
    private static final Map<String, String> LIMITED = Map.of(
            "no_key", "No key",
            "nullable_key", "No key",
            "float_key", "no value that an address can hold",
            "bytes_key", "no value that an address can hold",
            "only_key", "no column beside its key",
            "needs_a_place", "no value that a parameter can hold");

    @ParameterizedTest
    @MethodSource("tables")
    void eachOperationOfEachTableIsCalled(String table) throws Exception {
        String source = table.substring(0, table.indexOf('.'));
        String name = table.substring(table.indexOf('.') + 1);
        String module = Callers.fresh("of");
        JsonNode draft = drafted(source, module, name);
        String yaml = draft.path("text").path("files").path("module.yaml").asString();
        assertThat(ModuleFormat.of(new SourceText("module.yaml", yaml)))
                .as("as the formatter writes it")
                .isEqualTo(yaml);
        publish(draft);
        if (LIMITED.containsKey(name)) {
            assertThat(notes(draft)).anySatisfy(words -> assertThat(words).contains(LIMITED.get(name)));
        } else {
            assertThat(notes(draft)).as(name).isEmpty();
            assertThat(operations(draft).stream().filter(operation -> !operation.endsWith("/tree/{id}/tree")))
                    .hasSize(5);
        }
        new Exercise(module).run();
    }

    /** Calls whatever a drafted module has, in the order in which a row lives. */
    private static final class Exercise {

        private final String module;
        private final Map<String, JsonNode> operations = new TreeMap<>();

        Exercise(String module) throws Exception {
            this.module = module;
            for (JsonNode operation : RunningService.json(service.desk("/desk/modules/" + module + "/v1"))
                    .path("operations")) {
                operations.putIfAbsent(
                        operation.path("method").asString()
                                + (operation.path("answer").asString().equals("rows") ? " rows" : ""),
                        operation);
            }
        }

        void run() throws Exception {
            JsonNode rows = operations.get("GET rows");
            JsonNode add = operations.get("POST");
            JsonNode made = null;
            if (add != null) {
                HttpResponse<String> response =
                        service.send("POST", address(add.path("path").asString()), body(add, "POST"));
                assertThat(response.statusCode())
                        .as("POST of " + body(add, "POST") + ": " + response.body())
                        .isEqualTo(201);
                made = RunningService.json(response);
                Optional<String> location = response.headers().firstValue("Location");
                assertThat(location.isPresent()).isEqualTo(operations.containsKey("GET"));
                if (location.isPresent()) {
                    made = alone(location.get(), made);
                }
            }
            if (rows != null) {
                listed(rows, made);
            }
            if (operations.containsKey("DELETE") && made != null) {
                String place = place(operations.get("DELETE"), made);
                assertThat(service.send("DELETE", place, "").statusCode())
                        .as(place)
                        .isEqualTo(204);
                assertThat(service.get(place).statusCode()).isEqualTo(404);
            }
        }

        private String address(String path) {
            return "/api/" + module + "/v1" + path;
        }

        private String place(JsonNode operation, JsonNode row) {
            String path = operation.path("path").asString();
            for (JsonNode parameter : operation.path("parameters")) {
                if (parameter.path("in").asString().equals("path")) {
                    String name = parameter.path("name").asString();
                    path = path.replace(
                            "{" + name + "}",
                            URLEncoder.encode(row.path(name).asString(), StandardCharsets.UTF_8)
                                    .replace("+", "%20"));
                }
            }
            return address(path);
        }

        /** One row is read where it was said to be, and changed by whoever has seen it. */
        private JsonNode alone(String location, JsonNode made) throws Exception {
            HttpResponse<String> read = service.get(location);
            assertThat(read.statusCode()).as(location).isEqualTo(200);
            assertThat(RunningService.json(read)).isEqualTo(made);
            JsonNode change = operations.get("PATCH");
            if (change != null) {
                String body = body(change, "PATCH");
                assertThat(service.send("PATCH", location, body).statusCode()).isEqualTo(428);
                HttpResponse<String> changed = service.send(
                        "PATCH",
                        location,
                        body,
                        "If-Match",
                        read.headers().firstValue("ETag").orElseThrow());
                assertThat(changed.statusCode())
                        .as("PATCH with " + body + ": " + changed.body())
                        .isEqualTo(200);
                assertThat(RunningService.json(service.get(location))).isEqualTo(RunningService.json(changed));
                HttpResponse<String> nothing = service.send(
                        "PATCH",
                        location,
                        "{}",
                        "If-Match",
                        changed.headers().firstValue("ETag").orElseThrow());
                assertThat(nothing.statusCode()).as(nothing.body()).isEqualTo(200);
            }
            return RunningService.json(service.get(location));
        }

        /** The row is met among all, found by its values, and in any order. */
        private void listed(JsonNode rows, JsonNode made) throws Exception {
            String path = address(rows.path("path").asString());
            HttpResponse<String> all = service.get(path + "?limit=200");
            assertThat(all.statusCode()).as(all.body()).isEqualTo(200);
            for (JsonNode filter : rows.path("filters")) {
                String name = filter.path("name").asString();
                String field = name.contains("[") ? name.substring(0, name.indexOf('[')) : name;
                boolean equal = name.endsWith("[eq]") || !name.contains("[");
                if (made != null && equal && !made.path(field).isNull()) {
                    HttpResponse<String> found = service.get(path + "?limit=200&" + encoded(name) + "="
                            + encoded(made.path(field).asString()));
                    assertThat(found.statusCode()).as(found.body()).isEqualTo(200);
                    assertThat(RunningService.json(found).path("data")).as(name).isNotEmpty();
                }
            }
            for (JsonNode sort : rows.path("offers").path("sorts")) {
                HttpResponse<String> sorted = service.get(path + "?sort=-" + encoded(sort.asString()));
                assertThat(sorted.statusCode()).as(sorted.body()).isEqualTo(200);
            }
        }

        private static String encoded(String text) {
            return URLEncoder.encode(text, StandardCharsets.UTF_8);
        }

        private static String body(JsonNode operation, String method) {
            Map<String, Object> body = new LinkedHashMap<>();
            for (JsonNode parameter : operation.path("parameters")) {
                if (parameter.path("in").asString().equals("body")) {
                    String name = parameter.path("bind").asString();
                    body.put(name, value(parameter, method));
                }
            }
            // what only a person can know: which rows are there, and what the checks of the table mean
            String table = operation.path("path").asString().split("/")[1];
            KNOWN.forEach((name, value) -> {
                if (name.startsWith(table + ".") || !name.contains(".")) {
                    body.computeIfPresent(name.substring(name.indexOf('.') + 1), (key, made) -> value);
                }
            });
            body.keySet().removeAll(Set.of("above", "other_parent"));
            return body.isEmpty() ? "{}" : JsonMapper.shared().writeValueAsString(body);
        }

        /** By the column, or by its table and the column; those of tables come last. */
        private static final Map<String, Object> KNOWN = known();

        private static Map<String, Object> known() {
            Map<String, Object> known = new LinkedHashMap<>();
            for (String reference :
                    List.of("basin_id", "berth_id", "vessel_id", "skipper_id", "lock_id", "parent_id", "quay")) {
                known.put(reference, 1);
            }
            known.put("id", 900);
            known.put("bytes-key.id", "AAECAwQFBgc=");
            known.put("number-key.id", "0b8e4a52-6f0d-4c1e-9d57-3a2f1c7e9b11");
            known.put("departs", "2031-05-09");
            known.put("last_day", "2031-05-09");
            known.put("passage_id", UNCHARGED);
            known.put("composite-key.quay", 7);
            return known;
        }

        private static Object value(JsonNode parameter, String method) {
            boolean patch = method.equals("PATCH");
            List<String> allowed = parameter
                    .path("allowed")
                    .valueStream()
                    .map(JsonNode::asString)
                    .toList();
            if (!allowed.isEmpty()) {
                return patch ? allowed.getLast() : allowed.getFirst();
            }
            String example = parameter.path("example").asString("");
            return switch (parameter.path("type").asString()) {
                case "integer" -> example.isEmpty() ? 7 : Long.parseLong(example);
                case "number" -> example.isEmpty() ? 1 : Double.parseDouble(example);
                case "boolean" -> true;
                case "date" -> "2031-05-01";
                case "time" -> "09:30:00";
                case "date-time" -> "2031-05-01T09:30:00Z";
                case "date-time-local" -> "2031-05-01T09:30:00";
                case "uuid" -> "0b8e4a52-6f0d-4c1e-9d57-3a2f1c7e9b10";
                case "byte" -> "AAECAw==";
                case "object" -> Map.of("a", List.of(1, "two"));
                default -> text(parameter);
            };
        }

        private static String text(JsonNode parameter) {
            String name = parameter.path("bind").asString();
            return switch (name) {
                case "address" -> "2001:db8::7";
                case "address_old" -> "192.0.2.7";
                case "marks" -> "a,c";
                default -> {
                    int most = parameter.path("maxLength").asInt(20);
                    String text = most < 6 ? "words" : Callers.fresh("w");
                    yield text.length() > most ? text.substring(0, most) : text;
                }
            };
        }
    }

    /** The rows that refer to a row stand under it; several keys to one table are told apart. */
    @Test
    void relatedTablesAreUnderEachOther() throws Exception {
        String module = Callers.fresh("related");
        JsonNode draft = drafted("wide", module, "parent", "child", "tree", "composite_key", "composite_child");
        assertThat(operations(draft))
                .contains(
                        "GET /parent/{id}/child",
                        "GET /parent/{id}/child-by-other-parent",
                        "GET /tree/{id}/tree",
                        "GET /composite-key/{quay}/{day}/composite-child");
        publish(draft);
        JsonNode under = service.json("/api/" + module + "/v1/parent/1/child");
        assertThat(under.path("data").path(0).path("id").asInt()).isEqualTo(100);
        assertThat(service.json("/api/" + module + "/v1/parent/2/child").path("data"))
                .isEmpty();
        assertThat(service.json("/api/" + module + "/v1/composite-key/1/2031-05-01/composite-child")
                        .path("data"))
                .isEmpty();
    }

    @Test
    void whatTheTableForbidsIsToldInWords() throws Exception {
        String module = Callers.fresh("words");
        publish(drafted("wide", module, "checked", "child", "parent"));
        String base = "/api/" + module + "/v1/";
        HttpResponse<String> deep = service.send("POST", base + "checked", "{\"level\":9.9,\"age\":5}");
        assertThat(deep.statusCode()).isEqualTo(400);
        assertThat(deep.body()).contains("9.5");
        HttpResponse<String> young = service.send("POST", base + "checked", "{\"level\":1.005,\"age\":5}");
        assertThat(young.statusCode()).as("what would be rounded is refused").isEqualTo(400);
        HttpResponse<String> days = service.send(
                "POST",
                base + "checked",
                "{\"level\":1,\"age\":5,\"first_day\":\"2031-05-02\",\"last_day\":\"2031-05-01\"}");
        assertThat(days.statusCode()).as(days.body()).isEqualTo(422);
        assertThat(days.body()).contains("first_day <= last_day");
        HttpResponse<String> orphan = service.send("POST", base + "child", "{\"parent_id\":999}");
        assertThat(orphan.statusCode()).isEqualTo(422);
        assertThat(orphan.body()).contains("There is no row of parent with this parent_id.", "/parent_id");
        HttpResponse<String> twin = service.send("POST", base + "parent", "{\"name\":\"First\"}");
        assertThat(twin.statusCode()).isEqualTo(409);
        assertThat(twin.body()).contains("There is a row of parent with this name already.");
    }

    @Test
    void viewsArePagedWhereTheirRowsAreToldApart() throws Exception {
        String module = Callers.fresh("views");
        JsonNode draft = drafted("wide", module, "overview", "counted");
        publish(draft);
        assertThat(service.json("/api/" + module + "/v1/overview")
                        .path("data")
                        .path(0)
                        .path("name")
                        .asString())
                .isEqualTo("First");
        assertThat(operations(draft)).allMatch(operation -> operation.startsWith("GET "));
    }

    /** What was drafted is added to a text, whose comments and order stay. */
    @Test
    void operationsAreAddedToAText() throws Exception {
        String yaml = """
                # ours
                module: mixed
                version: 1.0.0
                title: Mixed
                source: wide
                public: true
                accept: { open-to-everybody: a test, change-open: a test }
                routes:
                    /parent: # four spaces
                        get: { about: All, sql: parent-list.sql, answer: rows, order: [id] }
                """;
        Map<String, Object> text =
                Map.of("folder", "m", "files", Map.of("module.yaml", yaml, "parent-list.sql", "select id from parent"));
        HttpResponse<String> response = service.post(
                "/desk/first-texts",
                Map.of("source", "wide", "tables", List.of(Map.of("name", "parent")), "text", text));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        JsonNode draft = RunningService.json(response);
        JsonNode files = draft.path("text").path("files");
        assertThat(files.path("module.yaml").asString())
                .startsWith(yaml.stripTrailing())
                .contains("\n        post:\n", "\n    /parent/{id}:\n      get:\n");
        assertThat(operations(draft)).doesNotContain("GET /parent").contains("POST /parent");
        assertThat(draft.path("notes").path(0).path("subject").asString()).isEqualTo("GET /parent");
        assertThat(files.has("parent-list-2.sql")).as("nothing would use it").isFalse();
        assertThat(files.path("parent-list.sql").asString()).isEqualTo("select id from parent");
        publish(draft);
    }

    /** Routes in braces take nothing more; that is said, and the text stays byte for byte. */
    @Test
    void whatCannotBeAddedIsSaid() throws Exception {
        String yaml =
                "module: x\nversion: 1.0.0\ntitle: X\nsource: wide\nroutes: { /q: { get: { sql: q.sql, answer: rows, order: [id] } } }\n";
        Map<String, Object> text =
                Map.of("folder", "m", "files", Map.of("module.yaml", yaml, "q.sql", "select id from parent"));
        JsonNode draft = RunningService.json(service.post(
                "/desk/first-texts",
                Map.of("source", "wide", "tables", List.of(Map.of("name", "parent")), "text", text)));
        assertThat(operations(draft)).isEmpty();
        assertThat(notes(draft)).hasSize(5).allMatch(words -> words.contains("in braces"));
        assertThat(draft.path("text").path("files").path("module.yaml").asString())
                .isEqualTo(yaml);
        assertThat(draft.path("text").path("files").propertyNames()).containsExactlyInAnyOrder("module.yaml", "q.sql");
    }

    @Test
    void aTextThatCannotBeReadIsLeftAlone() throws Exception {
        String yaml = "module: x\nroutes:\n  /q:\n    get: { sql: q.sql, answer: [\n";
        Map<String, Object> text = Map.of("folder", "m", "files", Map.of("module.yaml", yaml));
        JsonNode draft = RunningService.json(service.post(
                "/desk/first-texts",
                Map.of("source", "wide", "tables", List.of(Map.of("name", "parent")), "text", text)));
        assertThat(operations(draft)).isEmpty();
        assertThat(notes(draft)).hasSize(5);
        assertThat(draft.path("text").path("files").path("module.yaml").asString())
                .isEqualTo(yaml);
    }

    @Test
    void someOfATableIsChosen() throws Exception {
        HttpResponse<String> response = service.post(
                "/desk/first-texts",
                Map.of(
                        "source", "wide",
                        "module", "chosen",
                        "reads", Map.of("privilege", "chosen.read"),
                        "changes", Map.of("privilege", "chosen.change"),
                        "tables",
                                List.of(Map.of(
                                        "name",
                                        "every_type",
                                        "deeds",
                                        List.of("list", "add", "remove"),
                                        "columns",
                                        List.of("words", "day")))));
        JsonNode draft = RunningService.json(response);
        assertThat(operations(draft)).containsExactly("GET /every-type", "DELETE /every-type/{id}");
        assertThat(notes(draft)).singleElement().asString().contains("tiny, which was not chosen");
        String yaml = draft.path("text").path("files").path("module.yaml").asString();
        assertThat(yaml)
                .contains(
                        "needs: chosen.read",
                        "needs: chosen.change",
                        "filter: [id: [eq, in, gte, lte], words: [eq, in, starts], day: [eq, in, gte, lte]]");
        assertThat(draft.path("text").path("files").path("every-type-list.sql").asString())
                .isEqualTo("select id, words, day\nfrom every_type\n");
    }

    private static HttpResponse<String> made(String source, String module, Map<String, Object> from) throws Exception {
        Map<String, Object> request = new LinkedHashMap<>(from);
        request.put("source", source);
        request.put("module", module);
        request.put("reads", EVERYBODY);
        request.put("changes", EVERYBODY);
        return service.post("/desk/first-texts", request);
    }

    /** The rows that a row refers to stand within it, also twice the same table, itself, and none. */
    @Test
    void parentsStandWithinTheirChildren() throws Exception {
        String module = Callers.fresh("within");
        List<Map<String, Object>> tables = new ArrayList<>();
        for (String table : List.of("child", "tree", "composite_child", "parent")) {
            tables.add(Map.of("name", table, "parents", true));
        }
        HttpResponse<String> response = made("wide", module, Map.of("tables", tables));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        publish(RunningService.json(response));
        String base = "/api/" + module + "/v1/";
        JsonNode row = service.json(
                        base + "child?id[eq]=100".replace("[", "%5B").replace("]", "%5D"))
                .path("data")
                .path(0);
        assertThat(row.path("parent").path("name").asString()).isEqualTo("First");
        assertThat(row.path("other_parent_2").isNull()).as(row.toString()).isTrue();
        HttpResponse<String> one = service.get(base + "child/100");
        assertThat(RunningService.json(one)).isEqualTo(row);
        HttpResponse<String> changed = service.send(
                "PATCH",
                base + "child/100",
                "{\"other_parent\":2}",
                "If-Match",
                one.headers().firstValue("ETag").orElseThrow());
        assertThat(changed.statusCode()).as(changed.body()).isEqualTo(200);
        assertThat(RunningService.json(changed)
                        .path("other_parent_2")
                        .path("name")
                        .asString())
                .isEqualTo("Second");
        assertThat(service.json(base + "parent/1/child?limit=200").path("data")).isNotEmpty();
        String made = service.send("POST", base + "tree", "{\"label\":\"root\"}")
                .headers()
                .firstValue("Location")
                .orElseThrow();
        String root = made.substring(made.lastIndexOf('/') + 1);
        HttpResponse<String> grown = service.send("POST", base + "tree", "{\"label\":\"leaf\",\"above\":" + root + "}");
        String leaf = grown.headers().firstValue("Location").orElseThrow();
        assertThat(RunningService.json(grown))
                .as("a new row is answered as it is read")
                .isEqualTo(service.json(leaf));
        assertThat(service.json(leaf).path("above_2").path("label").asString()).isEqualTo("root");
    }

    @Test
    void routinesAreCalledAsTheyAreDeclared() throws Exception {
        String module = Callers.fresh("calls");
        HttpResponse<String> response =
                made("waterways", module, Map.of("routines", List.of("toll_due", "book_berth")));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        JsonNode draft = RunningService.json(response);
        assertThat(operations(draft)).containsExactly("GET /toll-due", "POST /book-berth");
        publish(draft);
        String base = "/api/" + module + "/v1/";
        assertThat(service.json(base + "toll-due?the_vessel=1&the_lock=1")
                        .path("value")
                        .isNumber())
                .isTrue();
        HttpResponse<String> refused = service.send(
                "POST",
                base + "book-berth",
                "{\"the_berth\":1,\"the_vessel\":1,\"the_arrival\":\"2031-05-02\",\"the_departure\":\"2031-05-01\"}");
        assertThat(refused.statusCode()).as(refused.body()).isEqualTo(422);
        assertThat(refused.body()).contains("The stay must end after it begins.");
    }

    @Test
    void strangeRoutinesAreCalledToo() throws Exception {
        String module = Callers.fresh("strange");
        JsonNode draft =
                RunningService.json(made("wide", module, Map.of("routines", List.of("swap it", "now_is", "place_of"))));
        assertThat(operations(draft)).containsExactly("GET /swap-it", "GET /now-is");
        assertThat(notes(draft)).singleElement().asString().contains("no value that a parameter can hold");
        publish(draft);
        String base = "/api/" + module + "/v1/";
        assertThat(service.json(base + "now-is").path("value").asString()).isEqualTo("now");
        JsonNode swapped = service.json(base + "swap-it?first_one=7");
        assertThat(swapped.path("first_one").asInt()).as(swapped.toString()).isEqualTo(8);
        assertThat(swapped.path("select").asString()).isEqualTo("was 7");
    }

    @Test
    void aStatementBecomesAnOperation() throws Exception {
        String module = Callers.fresh("stated");
        JsonNode draft = RunningService.json(
                made(
                        "wide",
                        module,
                        Map.of(
                                "statement",
                                Map.of(
                                        "sql",
                                        "select id, label from child\nwhere parent_id in (:parents)\n  and label = :label   -- when :label\n"))));
        assertThat(operations(draft)).containsExactly("GET /child");
        String yaml = draft.path("text").path("files").path("module.yaml").asString();
        assertThat(yaml)
                .contains(
                        "order: [id]",
                        "parents: { in: query, type: array, items: { type: integer }, required: true }",
                        "label: { in: query, type: string, maxLength: 10 }");
        publish(draft);
        assertThat(service.json("/api/" + module + "/v1/child?parents=1&parents=2")
                        .path("data"))
                .isNotEmpty();

        for (Map.Entry<String, String> one : Map.of(
                        "select count(*) as children from child", "answer: value",
                        "delete from child where id = :id", "delete:",
                        "update child set label = :label where id = :id", "patch:",
                        "insert into child (parent_id) values (:parent)", "post:",
                        "select id, label from child where id = :id limit 1", "answer: row")
                .entrySet()) {
            HttpResponse<String> response =
                    made("wide", "x", Map.of("statement", Map.of("sql", one.getKey(), "path", "/c/{id}")));
            assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
            assertThat(RunningService.json(response)
                            .path("text")
                            .path("files")
                            .path("module.yaml")
                            .asString())
                    .as(one.getKey())
                    .contains(one.getValue());
        }
        for (String bad : List.of(
                "drop table child",
                "select 1; select 2",
                "select 'open",
                "set @a = 1",
                "select nothing from nowhere")) {
            HttpResponse<String> response = made("wide", "x", Map.of("statement", Map.of("sql", bad)));
            assertThat(response.statusCode()).as(bad + ": " + response.body()).isEqualTo(400);
        }
    }

    /** What everybody may read nobody may change by that alone. */
    @Test
    void readingOpensNoChange() throws Exception {
        String module = Callers.fresh("closed");
        HttpResponse<String> response = service.post(
                "/desk/first-texts",
                Map.of(
                        "source",
                        "wide",
                        "module",
                        module,
                        "reads",
                        EVERYBODY,
                        "tables",
                        List.of(Map.of("name", "parent"))));
        publish(RunningService.json(response));
        assertThat(service.get("/api/" + module + "/v1/parent").statusCode()).isEqualTo(200);
        assertThat(service.send("DELETE", "/api/" + module + "/v1/parent/1", "").statusCode())
                .isIn(401, 403);
    }

    /** What the source's user may not do is left out, and said. */
    @Test
    void whatTheDatabaseRefusesIsNotMade() throws Exception {
        TestDatabase.execute(
                "",
                "create or replace user reader@'127.0.0.1' identified by '" + TestDatabase.PASSWORD + "'",
                "grant select, delete on wide.* to reader@'127.0.0.1'");
        Path workspace = service.home().resolve("workspace.yaml");
        String before = Files.readString(workspace);
        Files.writeString(
                workspace,
                before.replace(
                        "schema: wide\n    user: " + DemoDatabase.SOURCE_USER, "schema: wide\n    user: reader"));
        service.post("/desk/sources/reload", Map.of());
        try {
            JsonNode draft = drafted("wide", Callers.fresh("reader"), "parent");
            assertThat(operations(draft)).containsExactly("GET /parent", "GET /parent/{id}", "DELETE /parent/{id}");
            assertThat(notes(draft))
                    .satisfiesExactly(
                            add -> assertThat(add)
                                    .startsWith("Adding a row is refused by the database: INSERT command denied"),
                            change -> assertThat(change)
                                    .startsWith("Changing a row is refused by the database: UPDATE command denied"));
        } finally {
            Files.writeString(workspace, before);
            service.post("/desk/sources/reload", Map.of());
        }
    }

    @Test
    void whatIsNotThereIsSaid() throws Exception {
        HttpResponse<String> gone = service.post(
                "/desk/first-texts",
                Map.of("source", "wide", "module", "gone", "tables", List.of(Map.of("name", "sunk"))));
        assertThat(gone.statusCode()).isEqualTo(404);
        assertThat(gone.body()).contains("holds no table or view 'sunk'");
        HttpResponse<String> lengthy = service.post(
                "/desk/first-texts",
                Map.of("source", "wide", "module", "gone", "tables", List.of(Map.of("name", "x".repeat(100_000)))));
        assertThat(lengthy.body()).hasSizeLessThan(1_000);
        for (Map<String, Object> bad : List.<Map<String, Object>>of(
                Map.of(),
                Map.of("source", "wide", "module", "x", "tables", List.of()),
                Map.of("source", "elsewhere", "module", "x", "tables", List.of(Map.of("name", "parent"))),
                Map.of("source", "wide", "module", "No Name", "tables", List.of(Map.of("name", "parent"))),
                Map.of(
                        "source",
                        "wide",
                        "module",
                        "x",
                        "tables",
                        List.of(Map.of("name", "parent", "deeds", List.of("sink")))),
                Map.of("source", "wide", "module", "x", "tables", List.of(Map.of())))) {
            assertThat(service.post("/desk/first-texts", bad).statusCode())
                    .as(bad.toString())
                    .isEqualTo(400);
        }
    }

    /** Measured against the same work in ten parts in the same minute: machines are slow at times. */
    @Test
    void manyTablesTakeNoMoreThanTheirShare() throws Exception {
        String[] many = IntStream.range(0, MANY).mapToObj(i -> "many_" + i).toArray(String[]::new);
        JsonNode draft = drafted("wide", "many", many);
        assertThat(operations(draft)).hasSize(MANY * 5);
        assertThat(draft.path("findings")
                        .valueStream()
                        .filter(finding -> finding.path("severity").asString().equals("error")))
                .isEmpty();
        String[] few = Arrays.copyOf(many, MANY / 10);
        // one draft of a tenth is so short that a moment more or less decides
        Duration tenths = Cost.ofProcess(() -> {
            for (int i = 0; i < 10; i++) {
                drafted("wide", "many", few);
            }
        });
        Cost.isWithin(
                tenths.multipliedBy(3).dividedBy(2),
                "Ten times as many operations as in each of ten drafts, which take " + tenths + ",",
                () -> drafted("wide", "many", many));
    }

    private static JsonNode rehearsed(String module, Map<String, String> values, String... routines) throws Exception {
        HttpResponse<String> response = service.post(
                "/desk/first-texts",
                Map.of(
                        "source",
                        "wide",
                        "module",
                        module,
                        "reads",
                        EVERYBODY,
                        "changes",
                        EVERYBODY,
                        "routines",
                        List.of(routines),
                        "rehearse",
                        true,
                        "values",
                        values));
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    /** No catalog tells what result sets a procedure returns; it is run, and all it did is undone. */
    @Test
    void resultSetsAreSeenInARehearsal() throws Exception {
        String before = TestDatabase.column("select count(*) from wide.parent").getFirst();
        String module = Callers.fresh("seen");
        JsonNode draft = rehearsed(module, Map.of("number", "7"), "shows_two", "refuses_unless_seven", "now_is");
        assertThat(notes(draft)).isEmpty();
        String yaml = draft.path("text").path("files").path("module.yaml").asString();
        assertThat(yaml).contains("results: { result_1: rows, result_2: rows }", "results: { result_1: rows }");
        assertThat(ModuleFormat.of(new SourceText("module.yaml", yaml))).isEqualTo(yaml);
        assertThat(TestDatabase.column("select count(*) from wide.parent").getFirst())
                .as("all of it is undone")
                .isEqualTo(before);
        publish(draft);
        HttpResponse<String> called = service.send("POST", "/api/" + module + "/v1/shows-two", "{\"how_many\":3}");
        JsonNode body = RunningService.json(called);
        assertThat(body.path("result_1")).as(called.body()).hasSize(2);
        assertThat(body.path("result_2").toString()).isEqualTo("[{\"number\":3,\"nothing\":null}]");
        TestDatabase.execute("wide", "delete from parent where name = 'made 3'");
    }

    @Test
    void whatCannotBeRehearsedIsSaid() throws Exception {
        String before = TestDatabase.column("select count(*) from wide.parent").getFirst();
        JsonNode draft = rehearsed("unseen", Map.of(), "refuses_unless_seven", "commits_itself");
        assertThat(notes(draft))
                .anyMatch(words -> words.contains("refused with 422; give values"))
                .hasSize(2);
        assertThat(operations(draft)).hasSize(2);
        assertThat(TestDatabase.column("select count(*) from wide.parent").getFirst())
                .isEqualTo(before);
    }
}
