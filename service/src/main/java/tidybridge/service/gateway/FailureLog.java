package tidybridge.service.gateway;

import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.condition.Condition;
import tidybridge.core.condition.ConditionKind;
import tidybridge.engine.SourceFailure;
import tidybridge.service.capacity.LineLimit;

/** Notes what databases said, as loudly as it matters to those who run the service. */
final class FailureLog {

    private static final Logger LOG = LoggerFactory.getLogger(FailureLog.class);

    /** A caller who makes the same mistake a thousand times a second must not fill the disk. */
    private static final LineLimit LIMIT = new LineLimit(200, Duration.ofSeconds(10));

    private static final String SAID = "{}: {} (SQLSTATE {}, {}) [request {}]";

    private FailureLog() {}

    /**
     * Notes one.
     *
     * @param label of the operation
     * @param request what the request is called, as its caller was told
     */
    static void note(String label, String request, SourceFailure e) {
        int before = LIMIT.ask(System.nanoTime());
        if (before == LineLimit.NONE) {
            return;
        }
        if (before > 0) {
            LOG.warn("{} more failures of calls were not written down one by one.", before);
        }
        Condition condition = e.condition();
        switch (condition.kind()) {
            case ConditionKind kind
            when kind.blamesValues() ->
                LOG.info(
                        "{}: refused by {} (SQLSTATE {}, {}) [request {}]",
                        label,
                        kind,
                        condition.sqlState(),
                        condition.number(),
                        request);
            case UNREACHABLE, TIMED_OUT, ROWS_BUSY, OUTCOME_UNKNOWN ->
                LOG.warn(SAID, label, e.getMessage(), condition.sqlState(), condition.number(), request);
            // what was kept although the call failed is for somebody to look at
            default -> LOG.error(SAID, label, e.getMessage(), condition.sqlState(), condition.number(), request);
        }
    }
}
