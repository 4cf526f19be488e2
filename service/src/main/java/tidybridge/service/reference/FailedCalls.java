package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.regex.Pattern;
import org.jooq.exception.DataAccessException;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.RefusedCall;
import tidybridge.records.RefusedCalls;
import tidybridge.service.access.Visitor;
import tidybridge.service.run.Refusal;

/** Finds for callers what became of their own calls that were refused. Thread-safe. */
final class FailedCalls {

    /** Characters of a request id. */
    static final int LONGEST_ID = 64;

    private static final Pattern ID = Pattern.compile("[A-Za-z0-9-]{1," + LONGEST_ID + "}");

    /** One id may be that of several calls of one trace. */
    private static final int MOST = 20;

    private final RefusedCalls calls;

    FailedCalls(RefusedCalls calls) {
        this.calls = calls;
    }

    /**
     * The calls of a request id that came from whoever asks: in their name, or from their address.
     *
     * @return the newest first; none for an id of somebody else, and for one that is not known
     */
    List<RefusedCall> own(String id, Visitor visitor, HttpServletRequest request) throws Refusal {
        if (!ID.matcher(id).matches()) {
            return List.of();
        }
        String name = visitor.caller().name();
        try {
            return calls.of(id, MOST).stream()
                    .filter(call ->
                            call.address().equals(request.getRemoteAddr()) || name != null && name.equals(call.who()))
                    .toList();
        } catch (DataAccessException e) {
            throw new Refusal(
                    ProblemKind.SOURCE_UNAVAILABLE, "Calls cannot be looked up at the moment; try again later.");
        }
    }
}
