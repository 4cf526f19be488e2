package tidybridge.core.bind;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.finding.Findings;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Inputs from bodies, lists, cookies, the caller and the request. */
class BodyTest {

    private static final String HEAD = """
            module: m
            version: 1.0.0
            title: M
            source: s
            routes:
              /r:
                post:
                  sql: r.sql
                  answer: nothing
                  parameters:
            """;

    private static RawRequest request(@Nullable String query, byte @Nullable [] body) {
        return RawRequest.ofBody(query, body).with("berths", "3, 4").withCookie("quay", "north");
    }

    static Binder binder(String parameters) throws Exception {
        Findings findings = new Findings();
        String yaml = HEAD + parameters.strip().indent(8);
        List<ParameterDefinition> read = ModuleReader.read(
                        new ModuleText("m", Map.of("module.yaml", yaml, "r.sql", "select 1")), findings)
                .orElseThrow()
                .routes()
                .getFirst()
                .operations()
                .getFirst()
                .parameters();
        assertThat(findings.sorted()).isEmpty();
        return new Binder(read, List.of(), Askable.NOTHING);
    }

    private static @Nullable Object[] bind(String parameters, String query, String body) throws Exception {
        return binder(parameters)
                .bind(request(query, body.isEmpty() ? null : body.getBytes(StandardCharsets.UTF_8)))
                .values();
    }

    private static List<String> mistakes(String parameters, String query, String body) {
        BadInput bad = catchThrowableOfType(BadInput.class, () -> bind(parameters, query, body));
        List<String> all = new ArrayList<>();
        bad.errors().forEach(error -> all.add(error.in() + " " + error.name() + ": " + error.detail()));
        return all;
    }

    private static List<@Nullable Object[]> bindEach(String body) throws Exception {
        return binder("""
                berth: { in: body, type: integer, required: true }
                note: { in: body, type: string, nullable: true }
                by: { in: query, type: string, required: true }
                """).bindEach(request("by=me", body.isEmpty() ? null : body.getBytes(StandardCharsets.UTF_8)), 3);
    }

    private static List<String> mistakesOfRows(String body) {
        BadInput bad = catchThrowableOfType(BadInput.class, () -> bindEach(body));
        return bad.errors().stream()
                .map(error -> error.name() + ": " + error.detail())
                .toList();
    }

    @Test
    void anArrayBindsEachOfItsRows() throws Exception {
        List<@Nullable Object[]> rows =
                bindEach("[{\"berth\":1,\"note\":null},{\"berth\":2,\"note\":\"x\"},{\"berth\":3}]");
        assertThat(rows).hasSize(3);
        assertThat(rows.get(0)).containsExactly(1L, Bound.Given.NULL, "me");
        assertThat(rows.get(1)).containsExactly(2L, "x", "me");
        assertThat(rows.get(2)).containsExactly(3L, null, "me");
    }

    @Test
    void mistakesOfRowsNameTheRow() {
        assertThat(mistakesOfRows("[{\"berth\":1},{\"note\":1,\"x\":2},7]"))
                .containsExactlyInAnyOrder(
                        "/1/x: '/1/x' is not known here.",
                        "/1/note: '/1/note' must be text.",
                        "/1/berth: '/1/berth' is required.",
                        "/2: '/2' must be a JSON object.",
                        "/2/berth: '/2/berth' is required.");
        assertThat(mistakesOfRows("[{},{},{},{}]")).containsExactly(": The body holds more than 3 rows.");
        assertThat(mistakesOfRows("[]")).containsExactly(": The body holds no row.");
        assertThat(mistakesOfRows("{}")).containsExactly(": The body must be an array of rows.");
        assertThat(mistakesOfRows("[1")).singleElement().asString().contains("is not valid JSON");
        assertThat(mistakesOfRows("")).containsExactly(": The body must be an array of rows, and there is none.");
        assertThat(mistakesOfRows("[" + "{},".repeat(2) + "{}]")).hasSize(3);
    }

    private static final String BOOKING = """
            berth: { in: body, type: integer, required: true }
            skipper: { in: body, pointer: /skipper/name, type: string, maxLength: 10 }
            email: { in: body, pointer: /skipper/email, type: string, format: email }
            arrives: { in: body, type: date }
            rate: { in: body, type: number, exclusiveMinimum: 0, multipleOf: 0.25 }
            note: { in: body, type: string, nullable: true }
            power: { in: body, type: boolean, default: true }
            extras: { in: body, type: object }
            nights: { in: body, type: array, items: { type: integer, minimum: 1 }, maxItems: 3, uniqueItems: true }
            """;

    @Test
    void partsOfABodyHaveTheirTypes() throws Exception {
        Object[] values = bind(BOOKING, "", """
                {"berth": 17.0, "skipper": {"name": "Mara", "email": "m@marrowby.example"}, "arrives": "2031-05-01",
                 "rate": 12.50, "note": null, "extras": {"a": [1, 2.50]}, "nights": [3, 1]}""");
        assertThat(values)
                .containsExactly(
                        17L,
                        "Mara",
                        "m@marrowby.example",
                        LocalDate.of(2031, 5, 1),
                        new BigDecimal("12.50"),
                        Bound.Given.NULL,
                        true,
                        "{\"a\":[1,2.50]}",
                        List.of(3L, 1L));
    }

    @Test
    void nullAndAbsentAreKeptApart() throws Exception {
        assertThat(bind(BOOKING, "", "{\"berth\":1,\"note\":null}")[5]).isEqualTo(Bound.Given.NULL);
        assertThat(bind(BOOKING, "", "{\"berth\":1}")[5]).isNull();
        assertThat(mistakes(BOOKING, "", "{\"berth\":null}"))
                .containsExactly("body /berth: '/berth' must not be null.");
    }

    @Test
    void allMistakesAreToldAtOnceEachAtItsPointer() {
        assertThat(mistakes(BOOKING, "", """
                        {"berth": "17", "skipper": {"name": "Marabella of Heron", "mail": "x"}, "rate": 0.3,
                         "nights": [1, 1], "extras": [], "arrival": 1}"""))
                .containsExactly(
                        "body /berth: '/berth' must be a whole number of at most 64 bits, such as 12.",
                        "body /skipper/name: '/skipper/name' must have at most 10 characters.",
                        "body /skipper/mail: '/skipper/mail' is not known here. Did you mean '/skipper/email'?",
                        "body /rate: '/rate' must be a multiple of 0.25.",
                        "body /nights: '/nights' must not have an item twice.",
                        "body /extras: '/extras' must be a JSON object.",
                        "body /arrival: '/arrival' is not known here. Did you mean '/arrives'?");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
                    {"berth":1,"berth":2}       | has a key twice
                    {"berth":1                  | is not valid JSON
                    {"berth":1} x               | is not valid JSON
                    {"berth":1} {}              | has something behind its end
                    [1,2]                       | must be a JSON object
                    []                          | must be a JSON object
                    "text"                      | must be a JSON object
                    {"berth":1e999}             | '/berth' must be a whole number
                    {"berth":18446744073709551616} | '/berth' must be a whole number
                    {"berth":1.5}               | '/berth' must be a whole number
                    {"berth":1e2147483648}      | '/berth' must be a whole number
                    {"rate":-1e-2147483649}     | '/rate' must be a number
                    {"note":"\\ud83d"}          | '/note' must not hold half a character
                    {"note":"\\ude00\\ud83d"}    | '/note' must not hold half a character
                    {"extras":{"a":"\\ud83d"}}  | has a text with half a character
                    {"extras":{"\\ud83d":1}}    | is not valid JSON
                    {"extras":{"a":1,"a":2}}    | has a key twice
                    {"other":{"a":1,"a":2}}     | has a key twice
                    """)
    void bodiesAreReadStrictly(String body, String clause) {
        assertThat(mistakes(BOOKING, "", body)).anyMatch(mistake -> mistake.contains(clause));
    }

    @Test
    void depthNumbersAndEncodingAreLimited() throws Exception {
        assertThat(mistakes(BOOKING, "", "{\"extras\":" + "[".repeat(60) + "]".repeat(60) + "}"))
                .anyMatch(mistake -> mistake.contains("nests deeper than 50 levels"));
        assertThat(mistakes(BOOKING, "", "{\"berth\":" + "1".repeat(300) + "}"))
                .anyMatch(mistake -> mistake.contains("number of more than 200 characters"));
        BadInput bad = catchThrowableOfType(
                BadInput.class, () -> binder(BOOKING).bind(request(null, new byte[] {'"', (byte) 0xC3, '"'})));
        assertThat(bad.errors().getFirst().detail()).isEqualTo("The body is not UTF-8 text.");
    }

    /** As text without a length, chunked, can be. */
    @Test
    void anEmptyBodyIsNone() {
        assertThat(catchThrowableOfType(BadInput.class, () -> binder(BOOKING).bind(request(null, new byte[0])))
                        .errors())
                .singleElement()
                .satisfies(error -> assertThat(error.detail()).isEqualTo("'/berth' is required."));
    }

    @Test
    void aPartCanBeTakenWholeAndInParts() throws Exception {
        String parts = """
                skipper: { in: body, type: object }
                name: { in: body, pointer: /skipper/name, type: string }
                first: { in: body, pointer: /notes/0, type: string }
                """;
        assertThat(bind(parts, "", "{\"skipper\":{\"name\":\"Mara\",\"x\":[1,{}]},\"notes\":[\"a\"]}"))
                .containsExactly("{\"name\":\"Mara\",\"x\":[1,{}]}", "Mara", "a");
        assertThat(mistakes(parts, "", "{\"skipper\":[],\"notes\":[\"a\",{}]}"))
                .containsExactly(
                        "body /skipper: '/skipper' must be a JSON object.",
                        "body /notes/1: '/notes/1' is not known here. Did you mean '/notes/0'?");
    }

    /** A document keeps its numbers as they were written, however long or steep. */
    @Test
    void numbersInsideOfObjectsStayAsWritten() throws Exception {
        assertThat(bind(
                        BOOKING,
                        "",
                        "{\"berth\":1,\"extras\":{\"a\":1e2147483648,\"b\":[1.50,-0,1E+3],\"c\":\"\\ud83d\\ude00\"}}")[
                        7])
                .isEqualTo("{\"a\":1e2147483648,\"b\":[1.50,-0,1E+3],\"c\":\"\ud83d\ude00\"}");
    }

    /** Whatever a document holds: its text is the same document, without blanks. */
    @Test
    void aDocumentIsCopiedAsItIs() throws Exception {
        Binder binder = binder("all: { in: body, pointer: '', type: object }");
        Random random = new Random(7);
        for (int i = 0; i < 3_000; i++) {
            ObjectNode document = JsonMapper.shared().createObjectNode();
            fill(document, random, 4);
            Object text = binder.bind(request(
                            null,
                            JsonMapper.shared().writerWithDefaultPrettyPrinter().writeValueAsBytes(document)))
                    .values()[0];
            assertThat(text).isEqualTo(document.toString());
        }
    }

    private static void fill(ObjectNode node, Random random, int depth) {
        String[] texts = {"", "a", "\"", "\\", "\n\t\u0001", "é\u2028", "\ud83d\ude00", "/", "}", ",", ":["};
        for (int n = random.nextInt(4); n > 0; n--) {
            String name = n + texts[random.nextInt(texts.length)];
            switch (random.nextInt(depth == 0 ? 5 : 7)) {
                case 0 -> node.put(name, texts[random.nextInt(texts.length)]);
                case 1 -> node.put(name, random.nextLong());
                case 2 -> node.put(name, random.nextDouble());
                case 3 -> node.put(name, random.nextBoolean());
                case 4 -> node.putNull(name);
                case 5 -> fill(node.putObject(name), random, depth - 1);
                default -> fill(node.putArray(name).add("x").addObject(), random, depth - 1);
            }
        }
    }

    @Test
    void theWholeBodyCanBeTaken() throws Exception {
        assertThat(bind("all: { in: body, pointer: '', type: object }", "", "{\"x\": 1}"))
                .containsExactly("{\"x\":1}");
        assertThat(bind("all: { in: body, pointer: '', type: array, items: { type: integer } }", "", "[1, 2]"))
                .containsExactly(List.of(1L, 2L));
        assertThat(mistakes("all: { in: body, pointer: '', type: object, required: true }", "", ""))
                .containsExactly("body : The body is required.");
    }

    @Test
    void formsAreReadLikeQueries() throws Exception {
        String form = """
                name: { in: form, type: string, required: true }
                nights: { in: form, type: array, items: { type: integer } }
                """;
        assertThat(bind(form, "", "name=Heron+Pool%21&nights=1&nights=2"))
                .containsExactly("Heron Pool!", List.of(1L, 2L));
        assertThat(mistakes(form, "", "name=é"))
                .containsExactly("form form: 'form' must be percent-encoded.", "form name: 'name' is required.");
        assertThat(mistakes(form, "", "nam=x"))
                .containsExactly(
                        "form nam: 'nam' is not known here. Did you mean 'name'? Known here: name, nights.",
                        "form name: 'name' is required.");
    }

    @Test
    void listsComeRepeatedOrWithCommas() throws Exception {
        String lists = """
                lock: { in: query, type: array, items: { type: integer }, maxItems: 2, minItems: 1 }
                berths: { in: header, type: array, items: { type: integer } }
                """;
        assertThat(bind(lists, "lock=1&lock=2", "")).containsExactly(List.of(1L, 2L), List.of(3L, 4L));
        assertThat(mistakes(lists, "lock=1&lock=2&lock=3", ""))
                .containsExactly("query lock: 'lock' must have at most 2 items.");
        assertThat(mistakes(lists, "lock=x", ""))
                .containsExactly(
                        "query lock: 'lock' has an item that must be a whole number of at most 64 bits, such as 12.");
        assertThat(bind(lists, "", "")[0]).isNull();
    }

    @Test
    void theCallerAndTheRequestAreKnown() throws Exception {
        assertThat(bind("""
                        who: { in: caller, name: name }
                        app: { in: caller, name: client }
                        roles: { in: caller }
                        address: { in: caller }
                        id: { in: request }
                        at: { in: request, name: time }
                        quay: { in: cookie, type: string }
                        """, "", ""))
                .containsExactly(
                        "mara",
                        "harbour-app",
                        List.of("partner"),
                        "192.0.2.1",
                        "r1",
                        LocalDateTime.of(2031, 5, 1, 10, 0),
                        "north");
    }

    /** Whatever the body: it binds, or every mistake is told, and none holds what was sent. */
    @Test
    void noBodyIsToldBackOrCrashes() throws Exception {
        String[] pieces = {
            "{",
            "}",
            "[",
            "]",
            ":",
            ",",
            "\"berth\"",
            "\"sesame\"",
            "1",
            "-",
            "1e9999",
            "null",
            "true",
            "\\",
            "\"",
            " ",
            "\u0000",
            "\"skipper\"",
            "{\"skipper\":{\"name\":"
        };
        Binder binder = binder(BOOKING);
        Random random = new Random(11);
        for (int i = 0; i < 20_000; i++) {
            StringBuilder body = new StringBuilder("{\"berth\":");
            for (int n = random.nextInt(10); n >= 0; n--) {
                body.append(pieces[random.nextInt(pieces.length)]);
            }
            try {
                binder.bind(request(null, body.toString().getBytes(StandardCharsets.UTF_8)));
            } catch (BadInput e) {
                assertThat(e.errors())
                        .isNotEmpty()
                        .allMatch(error -> error.name().contains("sesame")
                                || !error.detail().contains("sesame"));
            }
        }
    }
}
