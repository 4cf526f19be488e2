package tidybridge.service.quota;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Clock;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tidybridge.core.access.Quota;
import tidybridge.core.bind.Caller;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tidybridge.records.Records;
import tidybridge.records.RecordsSettings;
import tidybridge.service.run.Refusal;

/** A service whose record store is away. */
class QuotasAloneTest {

    @Test
    void whileTheRecordsAreAwayAServiceCountsAlone() throws Exception {
        String schema = "tidy_records_alone";
        TestDatabase.emptyRecords(schema);
        Records records = Records.open(new RecordsSettings(
                "127.0.0.1", TestDatabase.server().port(), schema, schema, TestDatabase.PASSWORD, false));
        records.close();
        Quota quota = new Quota(20, Duration.ofHours(24), 0, false);
        List<Quotas.Rule> rules = List.of(new Quotas.Rule("operation", "a GET /b", quota));
        Caller caller = Caller.unknown("192.0.2.7");
        Map<String, String> fields = new HashMap<>();
        long begun = System.nanoTime();
        try (Quotas quotas = new Quotas(records.quotaUses(), client -> null, Clock.systemUTC())) {
            for (int i = 0; i < 20; i++) {
                quotas.begin(rules, caller, fields::put).close();
            }
            assertThatThrownBy(() -> quotas.begin(rules, caller, fields::put))
                    .isInstanceOf(Refusal.class)
                    .hasMessageContaining("of the calling address on the operation is used up");
            quotas.begin(rules, Caller.unknown("192.0.2.8"), fields::put).close();
        }
        assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(Until.BOUND);
        assertThat(fields.get("RateLimit")).startsWith("\"operation\";r=19;t=");
    }
}
