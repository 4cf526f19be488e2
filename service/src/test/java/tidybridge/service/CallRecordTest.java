package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.springframework.context.annotation.Bean;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.traffic.CallObserver;
import tidybridge.service.traffic.CallRecord;

/** What an observer hears of calls. */
class CallRecordTest {

    private static final BlockingQueue<CallRecord> HEARD = new LinkedBlockingQueue<>();

    @RegisterExtension
    static final DemoService DEMO = new DemoService(Observed.class);

    /** An observer in the place of the one that does nothing. */
    static class Observed {
        @Bean
        CallObserver observer() {
            return HEARD::add;
        }
    }

    @BeforeEach
    void forget() {
        HEARD.clear();
    }

    /** The record comes when the answer has left, which may be a moment later. */
    private static CallRecord heard() throws Exception {
        CallRecord record = HEARD.poll(5, TimeUnit.SECONDS);
        assertThat(record).as("nothing was heard").isNotNull();
        return record;
    }

    @Test
    void anAnswerIsToldWithItsOperationAndRows() throws Exception {
        DEMO.running().get("/api/moorings/v1/basins?limit=3");
        CallRecord page = heard();
        assertThat(page.module()).isEqualTo("moorings/v1");
        assertThat(page.operation().label()).isEqualTo("moorings/v1 GET /basins");
        assertThat(page.status()).isEqualTo(200);
        assertThat(page.rows()).isEqualTo(3);
        assertThat(page.problem()).isNull();
        assertThat(page.failure()).isNull();
        assertThat(System.nanoTime() - page.begunNanos()).isPositive();
        DEMO.running().get("/api/moorings/v1/berths/17");
        assertThat(heard().rows()).isEqualTo(1);
    }

    @Test
    void aRefusalIsToldWithAsMuchAsIsKnown() throws Exception {
        DEMO.running().get("/api/nowhere/v1/x");
        CallRecord nowhere = heard();
        assertThat(nowhere.module()).isNull();
        assertThat(nowhere.problem().kind()).isEqualTo(ProblemKind.MODULE_UNKNOWN);
        DEMO.running().get("/api/moorings/v1/berth");
        CallRecord route = heard();
        assertThat(route.module()).isEqualTo("moorings/v1");
        assertThat(route.operation()).isNull();
        assertThat(route.status()).isEqualTo(404);
        DEMO.running().get("/api/moorings/v1/berths?from=soon");
        CallRecord input = heard();
        assertThat(input.operation()).isNotNull();
        assertThat(input.problem().kind()).isEqualTo(ProblemKind.BAD_INPUT);
        DEMO.running().get("/api/tolls/v1/vessels/MW-10000/locks/3/toll");
        CallRecord closed = heard();
        assertThat(closed.module()).isEqualTo("tolls/v1");
        assertThat(closed.operation().label())
                .as("the caller is not told, and whoever runs the service is")
                .isEqualTo("tolls/v1 GET /vessels/{registration}/locks/{lockId}/toll");
        assertThat(closed.reason()).startsWith("The call needs a credential");
        assertThat(closed.requestId()).hasSize(32);
        assertThat(closed.address()).isEqualTo("127.0.0.1");
        assertThat(closed.status()).isEqualTo(401);
    }
}
