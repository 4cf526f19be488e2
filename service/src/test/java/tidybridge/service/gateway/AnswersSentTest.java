package tidybridge.service.gateway;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;

/** What leaves as an answer, each decision by itself. */
class AnswersSentTest {

    private final MemoryAnswer sent = new MemoryAnswer();

    @Test
    void aWholeAnswerIsSentWithItsLength() throws Exception {
        new HttpAnswer(201, Map.of("Location", "/x"), "application/json", bytes("{}")).send(sent);
        assertThat(sent.status).isEqualTo(201);
        assertThat(sent.headers)
                .containsEntry("Location", "/x")
                .containsEntry("Content-Type", "application/json")
                .containsEntry("Content-Length", "2");
        assertThat(sent.body()).isEqualTo("{}");
    }

    @Test
    void anAnswerWithoutContentHasNoLength() throws Exception {
        new HttpAnswer(204, Map.of(), null, new byte[0]).send(sent);
        assertThat(sent.status).isEqualTo(204);
        assertThat(sent.headers).isEmpty();
    }

    @Test
    void aProblemCanBeGivenAgain() throws Exception {
        HttpAnswer.of(Problem.of(ProblemKind.CONFLICT, "Taken.")).send(sent);
        assertThat(sent.status).isEqualTo(409);
        assertThat(sent.headers)
                .containsEntry("Content-Type", Problem.MEDIA_TYPE)
                .containsEntry("Cache-Control", "no-store");
        assertThat(sent.body()).contains("Taken.");
    }

    @Test
    void anAnswerIsHeldUntilItIsLarge() throws Exception {
        AnswerBuffer buffer = new AnswerBuffer(sent, false);
        buffer.write(new byte[AnswerBuffer.LARGEST_HELD_BYTES]);
        assertThat(buffer.isStreaming()).isFalse();
        assertThat(buffer.size()).isEqualTo(AnswerBuffer.LARGEST_HELD_BYTES);
        buffer.write('x');
        assertThat(buffer.isStreaming()).isTrue();
        buffer.finish();
        assertThat(sent.bytes.size()).isEqualTo(AnswerBuffer.LARGEST_HELD_BYTES + 1);
        assertThat(sent.headers).doesNotContainKey("Content-Length");
    }

    @Test
    void aLongAnswerLeavesEarlyAndAHeadHasNoBody() throws Exception {
        AnswerBuffer early = new AnswerBuffer(sent, false);
        early.expectLong();
        early.write(new byte[AnswerBuffer.LONG_HELD_BYTES + 1]);
        assertThat(early.isStreaming()).isTrue();
        MemoryAnswer headed = new MemoryAnswer();
        AnswerBuffer head = new AnswerBuffer(headed, true);
        head.write(bytes("{}"));
        head.finish();
        assertThat(headed.headers).containsEntry("Content-Length", "2");
        assertThat(headed.bytes.size()).isZero();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            image/png       | quay.png      | true  | inline; filename="quay.png"; filename*=UTF-8''quay.png
            image/png       | quay.png      | false | attachment; filename="quay.png"; filename*=UTF-8''quay.png
            text/html       | a.html        | true  | attachment; filename="a.html"; filename*=UTF-8''a.html
            image/svg+xml   |               | true  | attachment
            application/pdf | ../../é "x".pdf | true | inline; filename="_ _x_.pdf"; filename*=UTF-8''%C3%A9%20%22x%22.pdf
            """)
    void filesAreShownInPlaceOnlyWhereNothingRuns(String type, String name, boolean inline, String disposition) {
        FileFields.write(sent, type, name, inline);
        assertThat(sent.headers)
                .containsEntry("Content-Disposition", disposition)
                .containsEntry("X-Content-Type-Options", "nosniff");
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }
}
