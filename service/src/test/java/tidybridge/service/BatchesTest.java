package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.problem;
import static tidybridge.service.Situation.one;

import java.net.http.HttpResponse;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tidybridge.demo.TestDatabase;
import tools.jackson.databind.JsonNode;

/** Many rows in one request. */
class BatchesTest {

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @Test
    void manyRowsComeTrueTogether() throws Exception {
        StringBuilder rows = new StringBuilder("[");
        for (int i = 0; i < 10_000; i++) {
            rows.append(i == 0 ? "" : ",").append("{\"label\":\"m").append(i).append("\",\"kilos\":1}");
        }
        HttpResponse<String> all = STORES.send("POST", "/crates/all", rows + "]");
        assertThat(all.statusCode()).as(all.body()).isEqualTo(201);
        assertThat(all.body()).isEqualTo("{\"changed\":10000}");
        TestDatabase.execute("waterways", "delete from crate where id > 4");
        String twice = "[{\"label\":\"a\"},{\"label\":\"b\",\"kilos\":1},{\"label\":\"a\"}]";
        problem(STORES.send("POST", "/crates/all", twice), 409, "Twice.", "\"/2/label\"");
        problem(STORES.send("POST", "/crates/all", "[{\"label\":\"a\"},{\"kilos\":1}]"), 400, "\"/1/label\"");
        problem(STORES.send("POST", "/crates/all", "[]"), 400, "holds no row");
        problem(STORES.send("POST", "/crates/all", "{\"label\":\"a\"}"), 400, "must be an array of rows");
        problem(STORES.send("POST", "/crates/all", ""), 400, "must be an array of rows");
        assertThat(one("select count(*) from crate")).isEqualTo("4");
        problem(
                STORES.send("PATCH", "/crates/each", "[{\"id\":1,\"kilos\":5},{\"id\":99,\"kilos\":5}]"),
                404,
                "\"/1\"");
        assertThat(STORES.send("PATCH", "/crates/each", "[{\"id\":1,\"kilos\":5},{\"id\":2,\"label\":null}]")
                        .body())
                .isEqualTo("{\"changed\":2}");
        assertThat(TestDatabase.column("select concat(ifnull(label, '-'), kilos) from crate where id < 3 order by id"))
                .containsExactly("one5.00", "-20.00");
    }

    @Test
    void manyRowsEachHaveTheirResult() throws Exception {
        String rows = "[{\"label\":\"a\"},{\"label\":\"one\"},{\"label\":\"b\",\"shed\":9},{\"label\":\"c\"}]";
        HttpResponse<String> each = STORES.send("POST", "/crates/each", rows);
        assertThat(each.statusCode()).isEqualTo(200);
        JsonNode body = RunningService.json(each);
        assertThat(body.path("data").valueStream().map(row -> row.path("status").asInt()))
                .containsExactly(201, 409, 422, 201);
        assertThat(body.at("/data/0/key").asInt()).isPositive();
        assertThat(body.at("/data/2/problem/errors/0/pointer").asString()).isEqualTo("/2/shed");
        assertThat(body.path("changed").asInt()).isEqualTo(2);
        assertThat(body.path("refused").asInt()).isEqualTo(2);
        assertThat(one("select count(*) from crate where label in ('a', 'c')")).isEqualTo("2");
    }
}
