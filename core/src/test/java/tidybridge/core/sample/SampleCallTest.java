package tidybridge.core.sample;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Described;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.contract.Contract;

class SampleCallTest {

    private static final String ORIGIN = "https://bridge.marrowby.example";

    private static final Contract QUAYS = PlanFixture.promised(PlanFixture.compile(
                    """
            module: quays
            version: 2.0.0
            title: Quays
            source: waterways
            needs: quays.use
            routes:
              /quays/{quayId}/cranes:
                post:
                  about: Put a crane there
                  sql: put.sql
                  answer: nothing
                  idempotency-key: required
                  parameters:
                    quayId: { in: path, type: string, required: true, example: "A/1 ä" }
                    day:    { in: query, type: date, required: true, example: 2031-05-01 }
                    other:  { in: query, type: string, example: left out }
                    ids:    { in: query, type: array, items: { type: integer }, maxItems: 3, required: true, example: [1, 2] }
                    parts:  { in: body, type: array, items: { type: object }, maxItems: 3, example: [{ a: 1, b: [x, y] }, { a: 2 }] }
                    note:   { in: body, pointer: /words/note, type: string, example: "it's \\"new\\"\\nand tall" }
                    tonnes: { in: body, type: number, required: true, example: 12.50 }
                    tags:   { in: body, type: array, items: { type: string }, maxItems: 3, example: [a, b] }
            """,
                    Map.of(
                            "put.sql",
                            "insert into crane select :quayId, :day, :other, :note, :tonnes from tag where name in (:tags) and id in (:ids) and part in (:parts)"),
                    sql -> new Described.Fields(List.of()))
            .plan()
            .orElseThrow());

    private static final SampleCall CALL =
            SampleCall.of(QUAYS, QUAYS.operations().getFirst());

    @Test
    void aCallHasWhatItCannotDoWithoutAndAWholeBody() {
        assertThat(CALL.method()).isEqualTo("POST");
        assertThat(CALL.path()).isEqualTo("/api/quays/v2/quays/A%2F1%20%C3%A4/cranes?day=2031-05-01&ids=1&ids=2");
        assertThat(CALL.headers())
                .containsEntry("Content-Type", "application/json")
                .containsKey("Idempotency-Key");
        assertThat(CALL.secret()).isTrue();
        assertThat(CALL.body())
                .contains(
                        "\"note\": \"it's \\\"new\\\"\\nand tall\"",
                        "\"tonnes\": 12.50",
                        "[\n    \"a\",\n    \"b\"\n  ]");
    }

    @Test
    void aRecordedAnswerKeepsEveryDigitOfItsNumbers() {
        RecordedExample example = new RecordedExample(
                "GET /x", "/x", 200, "{\"a\":34.20,\"b\":12345678901234567890.1234567890,\"c\":1e3,\"d\":[]}", false);
        assertThat(RecordedExample.read(RecordedExample.write(List.of(example))))
                .containsExactly(example);
        assertThat(example.lines()).contains("34.20", "12345678901234567890.1234567890", "[ ]");
        assertThat(RecordedExample.read("no JSON")).isEmpty();
    }

    @Test
    void aShellTakesTheLineAsItIsMeant() throws Exception {
        String line = CodeLanguage.CURL.write(CALL, ORIGIN).replaceFirst("^curl", "printf '%s\\\\n'");
        Process shell =
                new ProcessBuilder("sh", "-c", line).redirectErrorStream(true).start();
        String said = new String(shell.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(said)
                .contains(ORIGIN + CALL.path() + "\n", "Content-Type: application/json\n")
                .endsWith("-d\n" + CALL.body() + "\n");
    }
}
