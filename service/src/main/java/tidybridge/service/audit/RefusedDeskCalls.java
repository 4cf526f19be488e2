package tidybridge.service.audit;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Clock;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.records.AuditEntry;
import tidybridge.records.AuditTrail;
import tidybridge.records.RefusedCall;
import tidybridge.service.access.DeskRefusals;
import tidybridge.service.access.Visitor;
import tidybridge.service.capacity.LineLimit;
import tidybridge.service.run.Refusal;
import tidybridge.service.traffic.Refusals;
import tidybridge.service.traffic.RequestId;

/**
 * Writes refused calls of the management API into the audit trail, and where they are found by their ids. Strangers together make no more
 * entries than somebody can read, {@link #OF_STRANGERS} in {@link #SPAN}, and those who are known {@link #OF_KNOWN}; the next one tells how many
 * were left out. So no stranger hides what somebody known tries.
 */
public final class RefusedDeskCalls implements DeskRefusals {

    static final int OF_STRANGERS = 100;

    static final int OF_KNOWN = 1_000;

    static final Duration SPAN = Duration.ofMinutes(10);

    private static final Logger LOG = LoggerFactory.getLogger(RefusedDeskCalls.class);

    private final AuditTrail trail;
    private final Refusals refusals;
    private final Clock clock;
    private final LineLimit strangers = new LineLimit(OF_STRANGERS, SPAN);
    private final LineLimit known = new LineLimit(OF_KNOWN, SPAN);

    public RefusedDeskCalls(AuditTrail trail, Refusals refusals, Clock clock) {
        this.trail = trail;
        this.refusals = refusals;
        this.clock = clock;
    }

    @Override
    public void note(
            HttpServletRequest request,
            HttpServletResponse response,
            Visitor visitor,
            String operation,
            Refusal refusal) {
        String id = RequestId.of(response);
        refusals.note(new RefusedCall(
                clock.instant(),
                id,
                null,
                operation,
                visitor.caller().name(),
                request.getRemoteAddr(),
                refusal.problem().status(),
                refusal.problem().code(),
                refusal.reason()));
        int before = (visitor.caller().isKnown() ? known : strangers).ask(System.nanoTime());
        if (before != LineLimit.NONE) {
            String more = before == 0 ? "" : "; " + before + " others were not noted before";
            try {
                trail.add(new AuditEntry(
                        clock.instant(),
                        visitor.who(),
                        request.getRemoteAddr(),
                        "refused",
                        operation,
                        refusal.problem().status() + " " + refusal.problem().code() + ", request " + id + more));
            } catch (RuntimeException e) {
                LOG.warn("A refused call of the management API could not be written down: {}", e.getMessage());
            }
        }
    }
}
