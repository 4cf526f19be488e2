package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import java.util.UUID;
import java.util.regex.Pattern;

/** What a request is called: the trace it belongs to (W3C Trace Context), or a name of its own. */
final class RequestId {

    private static final String ATTRIBUTE = RequestId.class.getName();
    private static final Pattern TRACE = Pattern.compile("[0-9a-f]{2}-(?!0{32})[0-9a-f]{32}-[0-9a-f]{16}-[0-9a-f]{2}");
    private static final int TRACE_ID_START = 3;
    private static final int TRACE_ID_END = 35;

    private RequestId() {}

    /** The same for the same request, however often it is asked. */
    static String of(HttpServletRequest request) {
        Object known = request.getAttribute(ATTRIBUTE);
        if (known instanceof String id) {
            return id;
        }
        String trace = request.getHeader("traceparent");
        boolean traced = trace != null && TRACE.matcher(trace).lookingAt();
        String id = traced
                ? trace.substring(TRACE_ID_START, TRACE_ID_END)
                : UUID.randomUUID().toString().replace("-", "");
        request.setAttribute(ATTRIBUTE, id);
        return id;
    }
}
