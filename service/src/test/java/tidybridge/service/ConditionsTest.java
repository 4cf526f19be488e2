package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.eventually;
import static tidybridge.service.Answered.problem;

import java.net.http.HttpResponse;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;

/** What the database reports, and what callers are told of it. */
class ConditionsTest {

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            {"label":"one"}             | 409 | A crate has this label already. | /label
            {"label":"x","shed":9}      | 422 | No shed has this number.        | /shed
            {"label":"x","kilos":-1}    | 422 | break a rule of the data        |
            {"label":"x","kilos":99999} | 400 | beyond what can be kept         |
            {"label":"aaaaaaaaaaaaaaa"} | 400 | longer than what can be kept    |
            {"label":"gold"}            | 418 | Gold goes to the office.        |
            {"label":"odd"}             | 422 | An odd crate.                   |
            {"kilos":"x"}               | 400 | 2 inputs need mending           | /label
            """)
    void conditionsOfTheDatabaseBecomeStatuses(String body, int status, String words, String pointer) throws Exception {
        HttpResponse<String> response = STORES.send("POST", "/crates", body);
        problem(response, status, words);
        if (pointer != null) {
            assertThat(response.body()).contains("\"pointer\":\"" + pointer + "\"");
        }
    }

    @Test
    void whatIsStillReferredToAndWhatIsForbiddenAreToldApart() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table lid (crate_id int, foreign key (crate_id) references crate (id))",
                "insert into lid values (1)");
        problem(STORES.send("DELETE", "/crates/1", ""), 409, "Other data still refers to it.");
        TestDatabase.execute(
                "waterways",
                "drop table lid",
                "revoke delete on waterways.crate from " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        try {
            problem(STORES.send("DELETE", "/crates/1", ""), 500, "Something is wrong on this side");
            eventually(
                    () -> STORES.service().desk("/desk/modules/stores/v1").body(),
                    "privilege-missing",
                    "DELETE /crates/{id}");
        } finally {
            TestDatabase.execute(
                    "waterways", "grant delete on waterways.crate to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        }
    }
}
