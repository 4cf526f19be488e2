package tidybridge.core.document;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.Cost;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;
import tidybridge.core.text.YamlLayout;

class DocumentedApiTest {

    private static DocumentedApi openApi(String rest) throws UnreadableDocument {
        return DocumentedApi.ofOpenApi("openapi: 3.1.0\n" + rest);
    }

    private static DocumentedOperation only(String rest) throws UnreadableDocument {
        return openApi(rest).operations().getFirst();
    }

    /** A parameter of this schema, as a definition would have it. */
    private static String parameter(String version, String schema) throws UnreadableDocument {
        DocumentedApi api = DocumentedApi.ofOpenApi("""
                openapi: %s
                paths:
                  /a:
                    get:
                      parameters: [{ name: x, in: query, schema: %s }]
                """.formatted(version, schema));
        return YamlLayout.write(
                        api.operations().getFirst().inputs().getFirst().value().keys())
                .strip()
                .replace("\n", ", ");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            3.0.3 | { type: integer, minimum: 1, exclusiveMinimum: true }           | type: integer, exclusiveMinimum: 1
            3.1.0 | { type: integer, exclusiveMinimum: 1 }                          | type: integer, exclusiveMinimum: 1
            3.0.3 | { type: integer, minimum: 1, exclusiveMinimum: false }          | type: integer, minimum: 1
            3.1.0 | { type: [string, 'null'], format: date }                        | type: date
            3.1.0 | { const: up }                                                   | type: string, enum: [up]
            3.1.0 | { enum: [up, down] }                                            | type: string, enum: [up, down]
            3.1.0 | { type: string, format: hostname, maxLength: 40 }               | type: string, maxLength: 40
            3.1.0 | { type: array, items: { type: integer }, maxItems: 5 }          | type: array, items: { type: integer }, maxItems: 5
            3.1.0 | { anyOf: [{ type: number, multipleOf: 0.50 }, { type: 'null' }] } | type: number, multipleOf: 0.5
            3.1.0 | { oneOf: [{ type: string }, { type: string, format: date }] }   | type: string
            3.1.0 | { type: string, pattern: '^(?=a)' }                             | type: string
            3.1.0 | { type: number, maximum: 1.5e+3 }                               | type: number
            """)
    void valuesAreReadInTheWordsOfADefinition(String version, String schema, String keys) throws Exception {
        assertThat(parameter(version, schema)).isEqualTo(keys);
    }

    @Test
    void whatCannotBeTakenOverIsRemarkedUpon() throws Exception {
        DocumentedApi api = openApi("""
                paths:
                  /files/{name}.pdf: { get: {} }
                  /a:
                    head: {}
                    get:
                      operationId: 'no name'
                      parameters:
                        - { name: limit, in: query, schema: { type: integer } }
                        - { name: after, in: query, schema: { type: string, format: date } }
                        - { $ref: 'other.yaml#/x' }
                        - { $ref: '#/components/parameters/Gone' }
                      responses:
                        '200': { content: { application/json: { schema: { type: array, items: { type: object, properties: { 'a b': {}, c: {} } } } } } }
                webhooks: {}
                """);
        assertThat(api.operations()).extracting(DocumentedOperation::label).containsExactly("GET /a");
        assertThat(api.operations().getFirst().inputs())
                .as("a day is no place in pages")
                .extracting(DocumentedInput::name)
                .containsExactly("after");
        assertThat(api.remarks().stream().map(remark -> remark.subject() + ": " + remark.words()))
                .anySatisfy(words -> assertThat(words).startsWith("GET /files/{name}.pdf: No route can have this path"))
                .anySatisfy(words -> assertThat(words).startsWith("HEAD /a"))
                .anySatisfy(words -> assertThat(words).contains("operationId"))
                .anySatisfy(words -> assertThat(words).contains("Left out: limit."))
                .anySatisfy(words -> assertThat(words).startsWith("other.yaml#/x: It stands in another document"))
                .anySatisfy(words -> assertThat(words).startsWith("#/components/parameters/Gone"))
                .anySatisfy(words -> assertThat(words).contains("'a b' has a name"))
                .anySatisfy(words -> assertThat(words).startsWith("webhooks"));
    }

    @Test
    void answersAreRowsWhereTheyHoldOneListOfObjects() throws Exception {
        String answer = """
                paths:
                  %s:
                    get:
                      responses:
                        '404': {}
                        '200': { content: { application/json; charset=utf-8: { schema: { properties: { total: { type: integer }, lines: { type: array, items: { properties: { id: { type: integer } } } } } } } } }
                """;
        DocumentedAnswer many = only(answer.formatted("/orders")).answer();
        assertThat(many.kind()).isEqualTo(AnswerKind.ROWS);
        assertThat(many.fields()).extracting(DocumentedField::name).containsExactly("id");
        DocumentedOperation one = only(answer.formatted("/orders/{order-id}"));
        assertThat(one.path()).isEqualTo("/orders/{order_id}");
        assertThat(one.answer().kind()).isEqualTo(AnswerKind.ROW);
        assertThat(one.answer().fields()).extracting(DocumentedField::name).containsExactly("total", "lines");
        assertThat(one.statuses()).containsExactly(200, 404);
    }

    @Test
    void whatIsOnlySentIsNotAnsweredAndTheReverse() throws Exception {
        DocumentedOperation operation = only("""
                paths:
                  /a:
                    post:
                      requestBody: { required: true, content: { application/json: { schema: { $ref: '#/components/schemas/A' } } } }
                      responses: { '201': { content: { application/json: { schema: { $ref: '#/components/schemas/A' } } } } }
                components:
                  schemas:
                    A:
                      required: [id, secret]
                      properties:
                        id: { type: integer, readOnly: true }
                        secret: { type: string, writeOnly: true }
                        inside: { readOnly: true, properties: { x: { type: string } } }
                """);
        assertThat(operation.inputs()).extracting(DocumentedInput::name).containsExactly("secret");
        assertThat(operation.inputs().getFirst().in()).isEqualTo(In.BODY);
        assertThat(operation.answer().fields())
                .extracting(DocumentedField::name)
                .containsExactly("id", "inside.x");
        assertThat(operation.answer().fields().getLast().value().nullable()).isTrue();
    }

    @Test
    void whatRefersToItselfEnds() throws Exception {
        DocumentedOperation tree = only("""
                paths:
                  /trees/{id}:
                    get:
                      responses: { '200': { content: { application/json: { schema: { $ref: '#/components/schemas/Tree' } } } } }
                components:
                  schemas:
                    Tree:
                      properties:
                        name: { type: string }
                        parent: { $ref: '#/components/schemas/Tree' }
                        children: { type: array, items: { $ref: '#/components/schemas/Tree' } }
                    Ring: { allOf: [{ $ref: '#/components/schemas/Ring' }] }
                """);
        assertThat(tree.answer().fields())
                .extracting(DocumentedField::name)
                .containsExactly("name", "parent", "children");
        DocumentedApi ring = openApi("""
                paths:
                  /a: { get: { responses: { '200': { $ref: '#/components/responses/One' } } } }
                components: { responses: { One: { $ref: '#/components/responses/Two' }, Two: { $ref: '#/components/responses/One' } } }
                """);
        assertThat(ring.remarks()).extracting(DocumentedApi.Remark::words).anyMatch(words -> words.contains("itself"));
    }

    @Test
    void littleTextThatMakesMuchWorkIsGivenUp() {
        String doubling = IntStream.range(0, 28)
                .mapToObj(i ->
                        "    S%d: { allOf: [{ $ref: '#/components/schemas/S%d' }, { $ref: '#/components/schemas/S%d' }] }"
                                .formatted(i, i + 1, i + 1))
                .collect(Collectors.joining("\n"));
        String document = """
                        paths:
                          /a: { get: { responses: { '200': { content: { application/json: { schema: { $ref: '#/components/schemas/S0' } } } } } } }
                        components:
                          schemas:
                        %s
                            S28: { type: object }
                        """.formatted(doubling);
        assertThat(Cost.ofThread(() -> assertThatThrownBy(() -> openApi(document))
                        .isInstanceOf(UnreadableDocument.class)
                        .hasMessageContaining("given up")))
                .isLessThan(Duration.ofSeconds(5));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '~', textBlock = """
            swagger: '2.0'                          | version 2
            openapi: 4.0.0                          | 3.0 and 3.1 are
            hello                                   | no OpenAPI document
            { "openapi": "3.1.0", "paths": {        | as JSON at line 1
            { "openapi": "3.1.0", "openapi": "x" }  | as JSON at line 1
            openapi: [                              | as YAML at line
            openapi: 3.1.0                          | no path with an operation
            { "openapi": "3.1.0", "paths": 7 }      | no path with an operation
            []                                      | no OpenAPI document
            a: &x b                                 | no OpenAPI document
            """)
    void whatIsNoneIsRefusedWithASentence(String text, String words) {
        assertThatThrownBy(() -> DocumentedApi.ofOpenApi(text))
                .isInstanceOf(UnreadableDocument.class)
                .hasMessageContaining(words)
                .message()
                .endsWith(".");
    }

    @Test
    void aliasesAreWhatTheyNameUntilTheyMakeTooMuch() throws Exception {
        DocumentedOperation operation = only("""
                paths:
                  /a: { get: { responses: { '200': &ok { content: { application/json: { schema: &row { properties: { id: &n { type: integer }, other: *n } } } } } } } }
                  /b: { get: { responses: { '200': *ok } } }
                """);
        assertThat(operation.answer().fields())
                .extracting(DocumentedField::name)
                .containsExactly("id", "other");
        String laughs = "openapi: 3.1.0\na0: &a0 [x, x, x, x, x, x, x, x, x, x]\n"
                + IntStream.range(1, 12)
                        .mapToObj(i ->
                                "a%d: &a%d [%s]\n".formatted(i, i, ("*a" + (i - 1) + ", ").repeat(9) + "*a" + (i - 1)))
                        .collect(Collectors.joining());
        assertThatThrownBy(() -> DocumentedApi.ofOpenApi(laughs)).hasMessageContaining("holds too much");
        assertThatThrownBy(() -> DocumentedApi.ofOpenApi("openapi: &a { b: *a }"))
                .isInstanceOf(UnreadableDocument.class);
    }

    @Test
    void whatIsTooLargeOrTooDeepIsRefused() {
        assertThatThrownBy(() -> DocumentedApi.ofOpenApi("#".repeat(DocumentedApi.LONGEST + 1)))
                .hasMessageContaining("at most");
        assertThatThrownBy(() -> DocumentedApi.ofOpenApi("{\"a\":".repeat(5_000)))
                .isInstanceOf(UnreadableDocument.class);
        assertThatThrownBy(() -> DocumentedApi.ofOpenApi("[".repeat(50_000))).isInstanceOf(UnreadableDocument.class);
    }

    /** The trees of a million small objects would take a hundred times the room of their text. */
    @Test
    void manySmallValuesAreCountedBeforeThereIsATree() {
        String small = "[" + "{},".repeat(1_000_000) + "{}]";
        assertThatThrownBy(() -> DocumentedApi.ofOpenApi("{\"openapi\":\"3.1.0\",\"x\":" + small + "}"))
                .hasMessageContaining("more than 250000 values");
        assertThatThrownBy(() -> DocumentedApi.ofSample(small, "/things")).hasMessageContaining("values");
        assertThatThrownBy(() -> DocumentedApi.ofOpenApi("openapi: 3.1.0\nx: [" + "a,".repeat(1_900_000) + "a]"))
                .hasMessageContaining("holds too much");
    }

    @Test
    void aNumberOfAHundredDigitsAndMoreIsNoLimit() throws Exception {
        assertThat(DocumentedApi.ofOpenApi("""
                        {"openapi":"3.1.0","paths":{"/a":{"get":{"parameters":[{"name":"x","in":"query","schema":{"type":"number","minimum":1e999999999,"maximum":1e-999999999,"example":1e400}}]}}}}
                        """)
                        .operations()
                        .getFirst()
                        .inputs()
                        .getFirst()
                        .value()
                        .limits()
                        .entries())
                .isEmpty();
    }

    @Test
    void aSampleTellsTheTypesThatAllRowsHave() throws Exception {
        DocumentedApi api = DocumentedApi.ofSample("""
                {"count": 2, "rows": [
                  {"id": 1, "day": "2031-05-01", "at": "2031-05-01T09:30:00Z", "rate": 1, "mixed": 1, "in": {"x": true}, "none": null},
                  {"id": 2, "day": null, "at": "2031-05-02T09:30:00+02:00", "rate": 2.5, "mixed": "a", "in": {"x": false, "y": [1]}, "none": null}
                ]}""", "/things");
        DocumentedOperation operation = api.operations().getFirst();
        assertThat(operation.label()).isEqualTo("GET /things");
        assertThat(operation.answer().kind()).isEqualTo(AnswerKind.ROWS);
        assertThat(operation.answer().fields().stream()
                        .map(field -> field.name() + " " + field.value().type().label()
                                + (field.value().nullable() ? " or null" : "")))
                .containsExactly(
                        "id integer",
                        "day date or null",
                        "at date-time",
                        "rate number",
                        "mixed string",
                        "in.x boolean",
                        "in.y array or null",
                        "none string or null");
        assertThat(api.remarks().stream().map(DocumentedApi.Remark::words))
                .anyMatch(words -> words.contains("'mixed' is integer here and string there"))
                .anyMatch(words -> words.contains("'none' has no value"))
                .anyMatch(words -> words.contains("'rows'"));
    }

    @Test
    void aSampleWithoutARowIsRefused() {
        for (String text : List.of("[]", "[1, 2]", "7", "\"a\"", "{", "", "[{\"a\":1},")) {
            assertThatThrownBy(() -> DocumentedApi.ofSample(text, "/things"))
                    .as(text)
                    .isInstanceOf(UnreadableDocument.class);
        }
    }
}
