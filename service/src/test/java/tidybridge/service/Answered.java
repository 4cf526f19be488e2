package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.stream.Stream;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;

/** What tests say of answers. */
final class Answered {

    private Answered() {}

    /** Empty when the answer does not have it. */
    static String header(HttpResponse<String> response, String name) {
        return response.headers().firstValue(name).orElse("");
    }

    /** The answer is a problem document that says these words, and nothing of the database's own. */
    static void problem(HttpResponse<String> response, int status, String... words) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(status);
        assertThat(header(response, "Content-Type")).isEqualTo("application/problem+json");
        assertThat(response.body()).contains("\"status\":" + status).doesNotContain("crate_", "onstraint", "SQL");
        for (String word : words) {
            assertThat(response.body()).contains(word);
        }
    }

    /** What is told after a moment, because somebody works on it who keeps no request waiting. */
    static void eventually(Until.Look<String> text, String... words) throws Exception {
        Until.seen(text, told -> Stream.of(words).allMatch(told::contains));
    }

    /** The problem document that the answer is. */
    static JsonNode document(HttpResponse<String> response, int status) {
        assertThat(response.statusCode()).isEqualTo(status);
        assertThat(response.headers().firstValue("Content-Type")).hasValue("application/problem+json");
        JsonNode problem = RunningService.json(response);
        assertThat(problem.path("status").asInt()).isEqualTo(status);
        assertThat(problem.path("title").asString()).isNotBlank();
        assertThat(problem.path("detail").asString()).isNotBlank();
        return problem;
    }
}
