package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.eventually;
import static tidybridge.service.Answered.header;
import static tidybridge.service.Answered.problem;
import static tidybridge.service.Situation.one;

import java.net.http.HttpResponse;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What procedures hand back. */
class ProceduresTest {

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @RegisterExtension
    static final Situation ROUTINES = new Situation("routines");

    @Test
    void aProcedureHandsBackOutputsResultsStatusAndHeaders() throws Exception {
        HttpResponse<String> tally = STORES.send("POST", "/tallies", "{\"least\":20,\"running\":7}");
        assertThat(tally.statusCode()).as(tally.body()).isEqualTo(200);
        JsonNode body = RunningService.json(tally);
        assertThat(body.path("running").asInt()).isEqualTo(10);
        assertThat(body.path("counted").asInt()).isEqualTo(3);
        assertThat(tally.body())
                .contains(
                        "[{\"label\":\"two\",\"kilos\":20.00},{\"label\":\"three\",\"kilos\":30.00},{\"label\":\"four\",\"kilos\":40.00}]");
        assertThat(body.path("heaviest").toString()).isEqualTo("{\"label\":\"four\"}");
        assertThat(body.path("none").toString()).isEqualTo("[]");
        assertThat(header(tally, "X-Counted")).isEqualTo("3");
        assertThat(one("select count(*) from crate_move")).isEqualTo("1");
        problem(STORES.send("POST", "/tallies", "{\"least\":200,\"running\":7}"), 409, "Nothing weighs that much.");
        assertThat(one("select count(*) from crate_move")).as("rolled back").isEqualTo("1");
        HttpResponse<String> read = STORES.send("GET", "/tallies?least=1&running=1", "");
        assertThat(read.statusCode())
                .as("a get cannot write, whatever its procedure does")
                .isEqualTo(500);
        assertThat(one("select count(*) from crate_move")).isEqualTo("1");
        assertThat(STORES.send("POST", "/quiet", "").body()).isEqualTo("{\"changed\":4}");
    }

    private static String words() throws Exception {
        return one("select group_concat(word order by id) from log_line");
    }

    private static void isNoted(String code) throws Exception {
        eventually(() -> ROUTINES.service().desk("/desk/modules/routines/v1").body(), code);
    }

    @Test
    void whatAProcedureHasCommittedIsNeverCalledUndone() throws Exception {
        problem(
                ROUTINES.send("POST", "/keeps-then-refuses", ""),
                500,
                "what the procedure behind it did until then is kept");
        assertThat(words()).isEqualTo("kept");
        isNoted("\"operation\":\"POST /keeps-then-refuses\"");
        isNoted("routine-ends-transaction");
        problem(ROUTINES.send("POST", "/steps", ""), 500, "kept");
        assertThat(words()).as("the second step did not run").isEqualTo("kept,kept");
        assertThat(ROUTINES.send("POST", "/changes-schema", "").statusCode()).isEqualTo(204);
        isNoted("\"operation\":\"POST /changes-schema\"");
    }

    @Test
    void aProcedureMayManageItsOwnTransaction() throws Exception {
        problem(ROUTINES.send("POST", "/own/keeps-then-refuses", ""), 422, "No.");
        assertThat(ROUTINES.send("POST", "/own/keeps", "").statusCode()).isEqualTo(204);
        assertThat(words()).isEqualTo("kept,kept");
        problem(ROUTINES.send("POST", "/own/opens", ""), 500, "kept");
        assertThat(words()).as("a transaction that is left open is undone").isEqualTo("kept,kept");
    }

    @Test
    void savepointsOfAProcedureAreItsOwn() throws Exception {
        problem(ROUTINES.send("POST", "/partly", ""), 422, "No.");
        assertThat(words()).isNull();
    }

    @Test
    void aResultSetThatNothingNamesIsTold() throws Exception {
        assertThat(ROUTINES.send("POST", "/shows", "").statusCode()).isEqualTo(204);
        isNoted("result-unnamed");
    }
}
