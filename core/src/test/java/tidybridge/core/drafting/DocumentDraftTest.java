package tidybridge.core.drafting;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.ForeignKey;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.document.DocumentedApi;

/** What becomes of single operations of a document, over two tables that nobody has. */
class DocumentDraftTest {

    private static Column column(String name, String type) {
        String base = type.replaceFirst("[( ].*", "");
        Integer scale = base.equals("decimal") ? 2 : null;
        return new Column(
                name,
                new ColumnType(type, base, false, base.equals("varchar") ? 60L : null, 5, scale, null, List.of()),
                false,
                null,
                false,
                false,
                "");
    }

    private static Relation table(String name, List<ForeignKey> keys, Column... columns) {
        return new Relation(
                name,
                Relation.Kind.TABLE,
                10,
                "",
                true,
                null,
                List.of(columns),
                List.of(new Index("PRIMARY", true, true, List.of("id"))),
                keys);
    }

    private static final Contents CONTENTS = new Contents(
            "harbour",
            Instant.EPOCH,
            List.of(
                    table("basin", List.of(), column("id", "int"), column("name", "varchar(60)")),
                    table(
                            "berth",
                            List.of(new ForeignKey("fk", List.of("basin_id"), "basin", List.of("id"))),
                            column("id", "int"),
                            column("basin_id", "int"),
                            column("berth_no", "varchar(60)"),
                            column("length_m", "decimal(5,2)"))),
            List.of());

    private static FirstText drafted(String paths, Map<String, DraftChoices.Match> matches) throws Exception {
        DocumentedApi api = DocumentedApi.ofOpenApi("openapi: 3.1.0\npaths:\n" + paths.indent(2));
        DraftChoices choices = new DraftChoices(
                "m",
                "1.0.0",
                "M",
                "harbour",
                null,
                null,
                List.of(),
                List.of(),
                List.of(),
                new DraftChoices.DocumentChoice(api, false, matches));
        return Drafting.of(choices, Catalog.offline(), CONTENTS);
    }

    /** The statements of one operation, with their white space as single spaces. */
    private static String statements(String paths) throws Exception {
        return String.join(
                " | ",
                drafted(paths, Map.of()).statements().values().stream()
                        .map(sql -> sql.strip().replaceAll("\\s+", " "))
                        .toList());
    }

    private static String operation(String method, String path, String parameters, String body, String answer) {
        String schema = "{ properties: { %s } }";
        return "%s:\n  %s:\n    parameters: [%s]\n%s    responses: { '200': { %s } }\n"
                .formatted(
                        path,
                        method,
                        Arrays.stream(parameters.split(" "))
                                .filter(name -> !name.isEmpty())
                                .map(name -> "{ name: %s, in: query, schema: { type: integer } }".formatted(name))
                                .reduce((one, other) -> one + ", " + other)
                                .orElse(""),
                        body.isEmpty()
                                ? ""
                                : "    requestBody: { content: { application/json: { schema: " + schema.formatted(body)
                                        + " } } }\n",
                        answer.isEmpty()
                                ? "description: ok"
                                : "content: { application/json: { schema: " + answer + " } }");
    }

    private static final String ROW = "{ properties: { id: { type: integer }, berthNo: { type: string } } }";
    private static final String ROWS = "{ type: array, items: " + ROW + " }";

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            minLengthM  | berth.length_m >= :minLengthM
            lengthMax   | berth
            max_length_m | length_m <= :max_length_m
            basinId     | basin_id = :basinId
            """)
    void whatCallersAskIsACondition(String parameter, String condition) throws Exception {
        assertThat(statements(operation("get", "/berths", parameter, "", ROWS)))
                .startsWith("select id, berth_no as berthNo from berth")
                .contains(condition.replace("berth.length_m", "length_m"));
    }

    @Test
    void aPathMeansTheVeryValueWhateverItIsCalled() throws Exception {
        String path = """
                /berths/{from_id}:
                  delete:
                    parameters: [{ name: from_id, in: path, required: true, schema: { type: integer } }]
                    responses: { '204': { description: gone } }
                """;
        FirstText text = drafted(
                path, Map.of("DELETE /berths/{from_id}", new DraftChoices.Match("berth", Map.of("from_id", "id"))));
        assertThat(text.statements().values()).containsExactly("delete from berth\nwhere\n  id = :from_id\n");
    }

    @Test
    void twoNamesOfOneColumnSetItOnce() throws Exception {
        String path = """
                /berths/{id}:
                  patch:
                    parameters: [{ name: id, in: path, required: true, schema: { type: integer } }]
                    requestBody: { content: { application/json: { schema: { properties: { no: { type: string }, berthNo: { type: string } } } } } }
                    responses: { '204': { description: done } }
                """;
        FirstText text = drafted(
                path,
                Map.of(
                        "PATCH /berths/{id}",
                        new DraftChoices.Match("berth", Map.of("id", "id", "no", "berth_no", "berthNo", "berth_no"))));
        assertThat(text.statements().values())
                .containsExactly("update berth\nset berth_no = :no   -- when :no\nwhere\n  id = :id\n");
    }

    @Test
    void rowsAreOrderedByAKeyThatIsHiddenWhenNobodyToldOfIt() throws Exception {
        FirstText text = drafted(
                operation(
                        "get",
                        "/berths",
                        "",
                        "",
                        "{ type: array, items: { properties: { berthNo: { type: string } } } }"),
                Map.of());
        String yaml = text.alone("m").text().files().get("module.yaml");
        assertThat(text.statements().values()).containsExactly("select berth_no as berthNo, id\nfrom berth\n");
        assertThat(yaml).contains("order: [id]", "id: { hide: true }");
    }

    @Test
    void whatIsStillToBeWrittenHidesNothing() throws Exception {
        FirstText text = drafted(
                operation(
                        "get",
                        "/moored",
                        "",
                        "",
                        "{ type: array, items: { properties: { place: { type: string } } } }"),
                Map.of());
        assertThat(text.alone("m").text().files().get("module.yaml")).doesNotContain("hide");
        assertThat(text.statements().values().iterator().next()).startsWith("-- To be written: GET /moored.");
    }

    @Test
    void aNewRowOfWhichNothingMustBeSaidIsInsertedAllTheSame() throws Exception {
        String sql = statements(
                operation("post", "/berths", "", "berthNo: { type: string }, lengthM: { type: number }", ROW));
        assertThat(sql)
                .isEqualTo(
                        "insert into berth ( berth_no , length_m -- when :lengthM ) values ("
                                + " coalesce(:berthNo, default(berth_no)) , :lengthM -- when :lengthM ) returning id, berth_no as berthNo");
    }

    @Test
    void anAnswerWithoutContentKeepsItsStatus() throws Exception {
        FirstText text = drafted(operation("post", "/berths", "", "berthNo: { type: string }", ""), Map.of());
        assertThat(text.alone("m").text().files().get("module.yaml")).contains("answer: nothing", "status: 200");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            put    | /berths              | every row would change
            delete | /berths              | every row would change
            post   | /berths/{id}/cancel  |
            """)
    void whatIsNoChangeOfOneRowIsLeftToBeWritten(String method, String path, String words) throws Exception {
        boolean deletes = method.equals("delete");
        FirstText text = drafted(
                operation(method, path, deletes ? "basinId" : "", deletes ? "" : "berthNo: { type: string }", ""),
                Map.of());
        assertThat(text.statements().values().iterator().next()).startsWith("-- To be written");
        if (words != null) {
            assertThat(text.notes()).extracting(FirstText.Note::words).anyMatch(note -> note.contains(words));
        }
    }
}
