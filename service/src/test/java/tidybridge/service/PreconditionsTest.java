package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.header;
import static tidybridge.service.Answered.problem;
import static tidybridge.service.Together.atOnce;

import java.net.http.HttpResponse;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

/** Changes that depend on a state. */
class PreconditionsTest {

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @Test
    void aStaleStateIsToldAndAFreshOneIsNotSentAgain() throws Exception {
        HttpResponse<String> read = STORES.send("GET", "/crates/1", "");
        String tag = header(read, "ETag");
        String modified = header(read, "Last-Modified");
        assertThat(tag).matches("\"1-[0-9a-f]+\"");
        HttpResponse<String> known = STORES.send("GET", "/crates/1", "", "If-None-Match", "\"x\", W/" + tag);
        assertThat(known.statusCode()).isEqualTo(304);
        assertThat(known.body()).isEmpty();
        assertThat(header(known, "ETag")).isEqualTo(tag);
        assertThat(STORES.send("GET", "/crates/1", "", "If-Modified-Since", modified)
                        .statusCode())
                .isEqualTo(304);
        problem(STORES.send("PATCH", "/crates/1", "{\"kilos\":1}"), 428, "If-Match");
        problem(STORES.send("PATCH", "/crates/1", "{\"kilos\":1}", "If-Match", "W/" + tag), 412);
        HttpResponse<String> changed = STORES.send("PATCH", "/crates/1", "{\"kilos\":1}", "If-Match", "\"x\", " + tag);
        assertThat(changed.statusCode()).isEqualTo(204);
        assertThat(header(changed, "ETag")).startsWith("\"2-");
        problem(STORES.send("PATCH", "/crates/1", "{\"kilos\":2}", "If-Match", tag), 412, "read it again");
        assertThat(STORES.send("PATCH", "/crates/1", "{\"kilos\":2}", "If-Match", header(changed, "ETag"))
                        .statusCode())
                .isEqualTo(204);
        problem(STORES.send("DELETE", "/crates/1", "", "If-Unmodified-Since", "Wed, 01 Jan 2020 00:00:00 GMT"), 412);
        problem(STORES.send("POST", "/crates", "{\"label\":\"x\"}", "If-Match", "*"), 412, "leave If-Match out");
        String shown = header(STORES.send("GET", "/crates/2/weight", ""), "ETag");
        assertThat(STORES.send("GET", "/crates/2/weight", "", "If-None-Match", shown)
                        .statusCode())
                .isEqualTo(304);
        assertThat(STORES.send("PUT", "/crates/2/weight", "{\"kilos\":21}", "If-Match", shown)
                        .statusCode())
                .isEqualTo(204);
        problem(STORES.send("PUT", "/crates/2/weight", "{\"kilos\":22}", "If-Match", shown), 412);
    }

    @Test
    void aConditionThatCannotBeComparedProtectsNothing() throws Exception {
        String past = "Wed, 01 Jan 2020 00:00:00 GMT";
        String future = "Wed, 01 Jan 2042 00:00:00 GMT";
        String change = "{\"kilos\":21}";
        problem(STORES.send("PUT", "/crates/2/seal", change), 428, "If-Match");
        problem(
                STORES.send("PUT", "/crates/2/seal", change, "If-Unmodified-Since", "x"),
                400,
                "take it from Last-Modified");
        problem(STORES.send("PUT", "/crates/2/seal", change, "If-None-Match", "\"other\""), 428);
        problem(STORES.send("PUT", "/crates/2/seal", change, "If-None-Match", "*"), 412, "It is there already");
        problem(STORES.send("PUT", "/crates/2/seal", change, "If-Match", "\"x\""), 412);
        problem(STORES.send("PUT", "/crates/2/seal", change, "If-Unmodified-Since", past), 412);
        assertThat(STORES.send("PUT", "/crates/2/seal", change, "If-Unmodified-Since", future)
                        .statusCode())
                .isEqualTo(204);
        assertThat(STORES.send("PUT", "/crates/2/seal", change, "If-Match", "*").statusCode())
                .isEqualTo(204);
        problem(
                STORES.send("PUT", "/crates/2/weight", change, "If-Unmodified-Since", future),
                412,
                "by their tags alone");
        problem(STORES.send("PATCH", "/crates/1", change, "If-Unmodified-Since", "x"), 400);
    }

    @Test
    void aReadIsConditionalToo() throws Exception {
        String tag = header(STORES.send("GET", "/crates/1", ""), "ETag");
        assertThat(STORES.send("GET", "/crates/1", "", "If-Match", tag).statusCode())
                .isEqualTo(200);
        assertThat(STORES.send("GET", "/crates/1", "", "If-Match", "*").statusCode())
                .isEqualTo(200);
        problem(STORES.send("GET", "/crates/1", "", "If-Match", "\"x\""), 412, "read it again");
        problem(STORES.send("GET", "/crates/1", "", "If-Unmodified-Since", "Wed, 01 Jan 2020 00:00:00 GMT"), 412);
        assertThat(STORES.send("GET", "/crates/1/steps", "", "If-None-Match", "\"x\"")
                        .statusCode())
                .as("a read of several steps has no tag")
                .isEqualTo(200);
        problem(STORES.send("GET", "/crates/1/steps", "", "If-Match", "\"x\""), 412);
    }

    @Test
    void everyLineOfAFieldIsRead() throws Exception {
        String tag = header(STORES.send("GET", "/crates/1", ""), "ETag");
        HttpResponse<String> second = RunningService.send(STORES.service()
                .request("/api/stores/v1/crates/1")
                .header("If-None-Match", "\"x\"")
                .header("If-None-Match", tag));
        assertThat(second.statusCode()).isEqualTo(304);
        HttpResponse<String> accepted = RunningService.send(STORES.service()
                .request("/api/stores/v1/crates/1")
                .header("Accept", "text/html")
                .header("Accept", "application/json"));
        assertThat(accepted.statusCode()).isEqualTo(200);
    }

    @Test
    void whatIsMadeTellsItsState() throws Exception {
        HttpResponse<String> made = STORES.send("POST", "/crates", "{\"label\":\"new\",\"kilos\":3}");
        assertThat(made.statusCode()).isEqualTo(201);
        String place = header(made, "Location").replaceFirst("^/api/stores/v1", "");
        HttpResponse<String> read = STORES.send("GET", place, "");
        assertThat(header(made, "ETag")).isEqualTo(header(read, "ETag"));
        assertThat(STORES.send("PATCH", place, "{\"kilos\":4}", "If-Match", header(made, "ETag"))
                        .statusCode())
                .isEqualTo(204);
    }

    @Test
    void ofTwoWritersOfOneStateExactlyOneWins() throws Exception {
        for (int round = 1; round <= 20; round++) {
            String tag = header(STORES.send("GET", "/crates/3", ""), "ETag");
            List<Integer> statuses = atOnce(
                    4,
                    () -> STORES.send("PATCH", "/crates/3", "{\"kilos\":3}", "If-Match", tag)
                            .statusCode());
            assertThat(statuses).as("round " + round).containsOnly(204, 412).containsOnlyOnce(204);
        }
    }
}
