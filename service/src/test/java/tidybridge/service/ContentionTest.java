package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;
import static tidybridge.service.Answered.header;
import static tidybridge.service.Answered.problem;
import static tidybridge.service.Situation.one;
import static tidybridge.service.Together.atOnce;

import java.net.Socket;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tidybridge.demo.TestDatabase;

/** Changes that meet others, take too long, or whose callers hang up. */
class ContentionTest {

    @RegisterExtension
    static final Situation STORES = new Situation("stores");

    @Test
    void deadlocksAreTriedAgain() throws Exception {
        TestDatabase.execute("waterways", "update crate set kilos = 1000");
        List<Integer> there = new ArrayList<>();
        Thread other = Thread.ofVirtual().start(() -> {
            try {
                there.addAll(atOnce(
                        20,
                        () -> STORES.send("POST", "/moves", "{\"from\":1,\"to\":2,\"kilos\":1}")
                                .statusCode()));
            } catch (Exception e) {
                throw new IllegalStateException(e);
            }
        });
        List<Integer> back = atOnce(
                20,
                () -> STORES.send("POST", "/moves", "{\"from\":2,\"to\":1,\"kilos\":1}")
                        .statusCode());
        other.join();
        assertThat(there).hasSize(20).isSubsetOf(201, 503).contains(201);
        assertThat(back).hasSize(20).isSubsetOf(201, 503).contains(201);
        assertThat(one("select sum(kilos) from crate where id in (1, 2)")).isEqualTo("2000.00");
        long made = java.util.stream.Stream.concat(there.stream(), back.stream())
                .filter(status -> status == 201)
                .count();
        assertThat(one("select count(*) from crate_move")).isEqualTo(String.valueOf(made));
    }

    @Test
    void aStatementThatTakesTooLongAndRowsThatOthersHold() throws Exception {
        problem(STORES.send("POST", "/slow", "{\"id\":1}"), 504);
        assertThat(one("select kilos from crate where id = 1")).isEqualTo("10.00");
        try (var connection = TestDatabase.server().connect("waterways");
                var statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            statement.execute("update crate set kilos = 9 where id = 2");
            HttpResponse<String> busy = STORES.send("PUT", "/crates/2/weight", "{\"kilos\":1}");
            problem(busy, 503, "changing the same data");
            assertThat(header(busy, "Retry-After")).isNotEmpty();
            connection.rollback();
        }
        assertThat(STORES.send("PUT", "/crates/2/weight", "{\"kilos\":1}").statusCode())
                .isEqualTo(204);
    }

    private static void cut(String request) throws Exception {
        try (Socket socket = new Socket("127.0.0.1", STORES.service().port())) {
            socket.getOutputStream().write(request.getBytes(StandardCharsets.US_ASCII));
        }
    }

    @Test
    void aCallerWhoHangsUpLeavesAWholeChangeOrNone() throws Exception {
        String head =
                "POST /api/stores/v1/moves HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: ";
        String body = "{\"from\":2,\"to\":1,\"kilos\":1}";
        for (int i = 0; i < 10; i++) {
            cut(head + body.length() + "\r\n\r\n" + body);
            cut(head + (body.length() + 5) + "\r\n\r\n" + body);
        }
        // those who hung up may still be answered: until they are, they may keep this one from its rows
        HttpResponse<String> own = STORES.send("POST", "/moves", body);
        while (own.statusCode() != 201) {
            problem(own, 503, "changing the same data");
            own = STORES.send("POST", "/moves", body);
        }
        // what belongs together is asked for together
        String made = one("select count(*) from crate_move");
        assertThat(Integer.parseInt(made)).isBetween(1, 11);
        assertThat(one("select sum(kilos) from crate where id in (1, 2)")).isEqualTo("30.00");
        assertThat(one("select (select 20 - kilos from crate where id = 2) - (select count(*) from crate_move)"))
                .isEqualTo("0.00");
        Connections.assertComeBack(STORES.service());
    }
}
