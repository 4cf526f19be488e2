package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tidybridge.demo.TestDatabase;

/** The demo's own changes: bookings, passages and readings. */
class BookingsTest {

    private static final int UNANSWERED = 0;

    private static RunningService service;
    private static String key;

    @BeforeAll
    static void start() throws Exception {
        service = SharedService.get();
        service.publishDemo();
        key = new Callers(service).holding("moorings.book", "passages.record");
    }

    @AfterAll
    static void stop() throws Exception {
        TestDatabase.execute(
                "waterways",
                "delete from booking where arrives >= '2035-01-01'",
                "delete from toll_charge",
                "delete from lock_passage where passed_at >= '2035-01-01'",
                "delete from gauge_reading");
    }

    private static HttpResponse<String> send(String method, String path, String body, String... headers)
            throws Exception {
        String[] all = Arrays.copyOf(headers, headers.length + 2);
        all[headers.length] = "Authorization";
        all[headers.length + 1] = "Bearer " + key;
        return service.send(method, "/api/" + path, body, all);
    }

    private static String booking(int berth, int vessel, String from, String until) {
        return "{\"berthId\":%d,\"vesselId\":%d,\"from\":\"%s\",\"until\":\"%s\"}"
                .formatted(berth, vessel, from, until);
    }

    /** The status; 0 where the machine's own network reset a connection in the rush. */
    private static int booked(String body) throws Exception {
        try {
            return send("POST", "moorings/v1/bookings", body).statusCode();
        } catch (IOException e) {
            return UNANSWERED;
        }
    }

    @Test
    void ofTwoThousandAtOnceOneGetsTheNight() throws Exception {
        Map<Integer, Integer> statuses = new TreeMap<>();
        try (ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Future<Integer>> all = IntStream.range(0, 2_000)
                    .mapToObj(i -> threads.submit(() -> booked(booking(5, 1 + i % 100, "2035-06-01", "2035-06-02"))))
                    .toList();
            for (Future<Integer> one : all) {
                statuses.merge(one.get(), 1, Integer::sum);
            }
        }
        assertThat(statuses.getOrDefault(UNANSWERED, 0)).isLessThan(20);
        statuses.remove(UNANSWERED);
        assertThat(statuses).containsEntry(201, 1);
        assertThat(statuses.keySet())
                .as(statuses.toString())
                .isSubsetOf(201, 409, 503)
                .contains(409);
        assertThat(TestDatabase.column("select count(*) from booking where berth_id = 5 and arrives = '2035-06-01'"))
                .containsExactly("1");
        Connections.assertComeBack(service);
    }

    @Test
    void aBookingIsMadeChangedAndCancelled() throws Exception {
        HttpResponse<String> made = send("POST", "moorings/v1/bookings", booking(6, 2, "2035-07-01", "2035-07-04"));
        assertThat(made.statusCode()).as(made.body()).isEqualTo(201);
        String address = made.headers().firstValue("Location").orElseThrow().substring("/api/".length());
        assertThat(made.body()).contains("\"status\":\"requested\",\"arrives\":\"2035-07-01\"", "\"name\":\"****\"");
        HttpResponse<String> taken = send("POST", "moorings/v1/bookings", booking(6, 3, "2035-07-03", "2035-07-05"));
        assertThat(taken.statusCode()).isEqualTo(409);
        assertThat(taken.body()).contains("The berth is taken from 2035-07-01 to 2035-07-04.");
        HttpResponse<String> read = send("GET", address, "");
        String tag = read.headers().firstValue("ETag").orElseThrow();
        assertThat(read.body()).isEqualTo(made.body());
        assertThat(send("PATCH", address, "{\"note\":\"Dog on board\"}").statusCode())
                .isEqualTo(428);
        HttpResponse<String> changed = send("PATCH", address, "{\"note\":\"Dog on board\"}", "If-Match", tag);
        assertThat(changed.statusCode()).isEqualTo(200);
        assertThat(changed.body()).contains("Dog on board");
        assertThat(send("PATCH", address, "{\"note\":null}", "If-Match", tag).statusCode())
                .isEqualTo(412);
        HttpResponse<String> unfit = send("PATCH", address, "{\"until\":\"2035-06-30\"}", "If-Match", "*");
        assertThat(unfit.statusCode()).isEqualTo(422);
        assertThat(unfit.body()).contains("\"pointer\":\"/until\"", "The stay must end after it begins.");
        assertThat(send("DELETE", address, "").statusCode()).isEqualTo(204);
        HttpResponse<String> again = send("DELETE", address, "");
        assertThat(again.statusCode()).isEqualTo(409);
        assertThat(again.body()).contains("The booking is cancelled already.");
        assertThat(send("DELETE", "moorings/v1/bookings/999999", "").statusCode())
                .isEqualTo(404);
        assertThat(send("GET", address, "").body()).contains("\"status\":\"cancelled\"");
    }

    @Test
    void aPassageAndItsTollAreRecordedTogether() throws Exception {
        String body =
                "{\"lockId\":%d,\"registration\":\"%s\",\"direction\":\"up\",\"passedAt\":\"2035-05-01T09:30:00\"}";
        HttpResponse<String> passed = send("POST", "passages/v1/passages", body.formatted(3, "MW-10084"));
        assertThat(passed.statusCode()).as(passed.body()).isEqualTo(201);
        assertThat(passed.body()).containsPattern("\"toll\":\\d+\\.\\d\\d}");
        assertThat(send("POST", "passages/v1/passages", body.formatted(3, "MW-99999"))
                        .body())
                .contains("No vessel is registered under this number.", "/registration");
        assertThat(send("POST", "passages/v1/passages", body.formatted(99, "MW-10084"))
                        .body())
                .contains("No lock has this number.", "/lockId");
        TestDatabase.execute(
                "waterways",
                "insert into closure (lock_id, closed_from, closed_to, reason) values (4, '2035-05-01', '2035-05-09', 'Gate repair')");
        assertThat(send("POST", "passages/v1/passages", body.formatted(4, "MW-10084"))
                        .body())
                .contains("The lock is closed until 2035-05-09: Gate repair.", "\"status\":409");
        TestDatabase.execute("waterways", "delete from closure where closed_from = '2035-05-01'");
        assertThat(TestDatabase.column("select count(*) from lock_passage where passed_at >= '2035-01-01'"))
                .isEqualTo(TestDatabase.column("select count(*) from toll_charge"));
    }
}
