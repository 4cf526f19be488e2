package tidybridge.service.traffic;

import jakarta.servlet.http.HttpServletRequest;
import java.util.HexFormat;
import java.util.concurrent.ThreadLocalRandom;
import java.util.regex.Pattern;

/** What a request is called, in logs, answers and problems: the trace it belongs to (W3C Trace Context), or a name of its own. */
public final class RequestId {

    private static final String ATTRIBUTE = RequestId.class.getName();
    private static final Pattern TRACE = Pattern.compile("[0-9a-f]{2}-(?!0{32})[0-9a-f]{32}-[0-9a-f]{16}-[0-9a-f]{2}");
    private static final int TRACE_ID_START = 3;
    private static final int TRACE_ID_END = 35;

    /** The field that tells it to the caller. */
    public static final String FIELD = "X-Request-Id";

    private RequestId() {}

    /** The same for the same request, however often it is asked. */
    public static String of(HttpServletRequest request) {
        Object known = request.getAttribute(ATTRIBUTE);
        if (known instanceof String id) {
            return id;
        }
        String trace = request.getHeader("traceparent");
        boolean traced = trace != null && TRACE.matcher(trace).lookingAt();
        String id = traced ? trace.substring(TRACE_ID_START, TRACE_ID_END) : fresh();
        request.setAttribute(ATTRIBUTE, id);
        return id;
    }

    /** Unique, and no secret. */
    public static String fresh() {
        ThreadLocalRandom random = ThreadLocalRandom.current();
        HexFormat hex = HexFormat.of();
        return hex.toHexDigits(random.nextLong()) + hex.toHexDigits(random.nextLong());
    }
}
