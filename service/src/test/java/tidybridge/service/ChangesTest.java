package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.header;
import static tidybridge.service.Answered.problem;
import static tidybridge.service.Situation.one;

import java.net.http.HttpResponse;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tidybridge.demo.TestDatabase;

/** Rows that are added, replaced, changed in part and taken away, one by one and in sequences. */
class ChangesTest {

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @Test
    void anInsertAnswersWithTheKeyAndWhereItIs() throws Exception {
        HttpResponse<String> made = STORES.send("POST", "/crates", "{\"label\":\"new\",\"kilos\":1.5}");
        assertThat(made.statusCode()).isEqualTo(201);
        int id = RunningService.json(made).path("id").asInt();
        assertThat(header(made, "Location")).isEqualTo("/api/stores/v1/crates/" + id);
        assertThat(made.body()).isEqualTo("{\"id\":" + id + "}");
        assertThat(STORES.service().get(header(made, "Location")).body())
                .isEqualTo("{\"id\":%d,\"label\":\"new\",\"kilos\":1.50}".formatted(id));
        HttpResponse<String> form = STORES.send(
                "POST", "/crates/returned", "label=form&kilos=2", "Content-Type", "application/x-www-form-urlencoded");
        assertThat(form.statusCode()).isEqualTo(201);
        assertThat(form.body()).contains("\"label\":\"form\",\"kilos\":2.00");
    }

    @Test
    void putReplacesAndDeleteRemoves() throws Exception {
        assertThat(STORES.send("PUT", "/crates/1", "{\"label\":\"uno\"}").statusCode())
                .isEqualTo(204);
        assertThat(one("select concat_ws(',', label, ifnull(kilos, 'null')) from crate where id = 1"))
                .isEqualTo("uno,null");
        HttpResponse<String> made = STORES.send("PUT", "/crates/77", "{\"label\":\"far\",\"kilos\":7}");
        assertThat(made.statusCode()).isEqualTo(204);
        assertThat(made.body()).isEmpty();
        assertThat(header(made, "ETag")).startsWith("\"1-");
        assertThat(STORES.send("PUT", "/crates/77", "{\"label\":\"far\",\"kilos\":7}", "If-None-Match", "*")
                        .statusCode())
                .isEqualTo(412);
        assertThat(STORES.send("PUT", "/crates/78", "{\"label\":\"no\"}", "If-Match", "*")
                        .statusCode())
                .isEqualTo(412);
        assertThat(STORES.send("DELETE", "/crates/77", "").statusCode()).isEqualTo(204);
        problem(STORES.send("DELETE", "/crates/77", ""), 404, "Nothing is kept here");
        assertThat(one("select count(*) from crate where id in (77, 78)")).isEqualTo("0");
    }

    @Test
    void aPatchChangesWhatItNamesAndNothingElse() throws Exception {
        String any = "If-Match";
        String merge = "application/merge-patch+json";
        assertThat(STORES.send("PATCH", "/crates/1", "{\"kilos\":11}", any, "*", "Content-Type", merge)
                        .statusCode())
                .isEqualTo(204);
        assertThat(one("select concat_ws(',', label, kilos, version) from crate where id = 1"))
                .isEqualTo("one,11.00,2");
        assertThat(STORES.send("PATCH", "/crates/1", "{\"label\":null}", any, "*")
                        .statusCode())
                .isEqualTo(204);
        assertThat(one("select concat(ifnull(label, 'null'), ',', kilos) from crate where id = 1"))
                .isEqualTo("null,11.00");
        assertThat(STORES.send("PATCH", "/crates/1", "{}", any, "*").statusCode())
                .isEqualTo(204);
        assertThat(one("select version from crate where id = 1")).isEqualTo("2");
        problem(STORES.send("PATCH", "/crates/1", "{\"kilos\":null}", any, "*"), 400, "'/kilos' must not be null");
        problem(STORES.send("PATCH", "/crates/1", "{\"sealed\":true}", any, "*"), 400, "/sealed' is not known here");
        problem(STORES.send("PATCH", "/crates/1", "", any, "*"), 400, "The body is missing");
        problem(STORES.send("PATCH", "/crates/99", "{\"kilos\":1}", any, "*"), 404);
        assertThat(header(STORES.send("OPTIONS", "/crates/1", ""), "Accept-Patch"))
                .contains(merge);
    }

    @Test
    void aChangeStopsAtItsLimitAndTellsBeforehandHowMuchItWouldTouch() throws Exception {
        assertThat(STORES.send("DELETE", "/crates?above=1&preview=count", "").body())
                .isEqualTo("{\"matching\":4,\"most\":3,\"allowed\":false}");
        problem(STORES.send("DELETE", "/crates?above=1", ""), 422, "4 rows", "at most 3");
        assertThat(one("select count(*) from crate")).isEqualTo("4");
        assertThat(STORES.send("DELETE", "/crates?above=10&preview=count", "").body())
                .contains("\"allowed\":true");
        assertThat(one("select count(*) from crate")).isEqualTo("4");
        assertThat(STORES.send("DELETE", "/crates?above=10", "").body()).isEqualTo("{\"changed\":3}");
        assertThat(STORES.send("DELETE", "/crates?above=10&shed=1", "").body()).isEqualTo("{\"changed\":0}");
        problem(STORES.send("DELETE", "/crates?above=10&preview=count&preview=count", ""), 400, "more than once");
        problem(STORES.send("DELETE", "/crates?above=10&preview=rows", ""), 400, "can only be 'count'");
        problem(STORES.send("DELETE", "/crates/1/all?preview=count", ""), 400, "'preview' is not known here");
        TestDatabase.execute("waterways", "insert into crate (label, kilos) values ('x', 1), ('y', 1)");
        problem(STORES.send("DELETE", "/crates/0/all", ""), 422, "at most 1");
        assertThat(one("select count(*) from crate where kilos = 0")).isEqualTo("0");
    }

    @Test
    void aSequenceIsDoneWholeOrNotAtAll() throws Exception {
        HttpResponse<String> moved = STORES.send("POST", "/moves", "{\"from\":2,\"to\":1,\"kilos\":5}");
        assertThat(moved.statusCode()).as(moved.body()).isEqualTo(201);
        assertThat(moved.body()).contains("\"label\":\"one\",\"kilos\":15.00");
        assertThat(header(moved, "Location")).isEqualTo("/api/stores/v1/moves/" + one("select id from crate_move"));
        assertThat(one("select was from crate_move")).isEqualTo("20.00");
        problem(
                STORES.send("POST", "/moves", "{\"from\":2,\"to\":1,\"kilos\":500}"),
                422,
                "It does not weigh that much.",
                "\"/kilos\"");
        problem(
                STORES.send("POST", "/moves", "{\"from\":99,\"to\":1,\"kilos\":5}"),
                422,
                "nothing to take from",
                "\"/from\"");
        problem(STORES.send("POST", "/moves", "{\"from\":2,\"to\":99,\"kilos\":5}"), 404);
        TestDatabase.execute("waterways", "update crate set sealed = true where id = 3");
        problem(STORES.send("POST", "/moves", "{\"from\":3,\"to\":1,\"kilos\":5}"), 409, "Crate three is sealed.");
        assertThat(TestDatabase.column("select kilos from crate order by id"))
                .containsExactly("15.00", "15.00", "30.00", "40.00");
        assertThat(one("select count(*) from crate_move")).isEqualTo("1");
    }
}
