package tidybridge.service.gateway;

import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.condition.Condition;
import tidybridge.engine.SourceFailure;

/** Notes what databases said, as loudly as it matters to those who run the service. */
final class FailureLog {

    private static final Logger LOG = LoggerFactory.getLogger(FailureLog.class);

    private FailureLog() {}

    static void note(String label, SourceFailure e) {
        Condition condition = e.condition();
        switch (condition.kind()) {
            case UNREACHABLE, TIMED_OUT, ROWS_BUSY, OUTCOME_UNKNOWN ->
                LOG.warn("{}: {} (SQLSTATE {}, {})", label, e.getMessage(), condition.sqlState(), condition.number());
            case DUPLICATE,
                    STILL_REFERRED_TO,
                    REFERENCE_MISSING,
                    CHECK_FAILED,
                    VALUE_MISSING,
                    TOO_LONG,
                    OUT_OF_RANGE,
                    WRONG_FORM,
                    SIGNALLED ->
                LOG.info(
                        "{}: refused by {} (SQLSTATE {}, {})",
                        label,
                        condition.kind(),
                        condition.sqlState(),
                        condition.number());
            case DENIED, OTHER ->
                LOG.error("{}: {} (SQLSTATE {}, {})", label, e.getMessage(), condition.sqlState(), condition.number());
        }
    }
}
