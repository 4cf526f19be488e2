package tidybridge.service.traffic;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.ThreadLocalRandom;
import java.util.regex.Pattern;

/** What a request is called, in logs, answers and problems: the trace it belongs to (W3C Trace Context), or a name of its own. */
public final class RequestId {

    private static final byte[] HEXADECIMAL = "0123456789abcdef".getBytes(StandardCharsets.ISO_8859_1);
    private static final int BITS_A_DIGIT = 4;
    private static final int DIGITS = 32;
    private static final Pattern TRACE = Pattern.compile("[0-9a-f]{2}-(?!0{32})[0-9a-f]{32}-[0-9a-f]{16}-[0-9a-f]{2}");
    private static final int TRACE_ID_START = 3;
    private static final int TRACE_ID_END = 35;

    /** The field that tells it to the caller. */
    public static final String FIELD = "X-Request-Id";

    private RequestId() {}

    /** Names a request, and tells the name to its caller. */
    public static void tell(HttpServletRequest request, HttpServletResponse response) {
        String trace = request.getHeader("traceparent");
        boolean traced = trace != null && TRACE.matcher(trace).lookingAt();
        response.setHeader(FIELD, traced ? trace.substring(TRACE_ID_START, TRACE_ID_END) : fresh());
    }

    /** What the caller was told. */
    public static String of(HttpServletResponse response) {
        String told = response.getHeader(FIELD);
        return told == null ? fresh() : told;
    }

    /** Unique, and no secret. */
    public static String fresh() {
        ThreadLocalRandom random = ThreadLocalRandom.current();
        byte[] digits = new byte[DIGITS];
        write(random.nextLong(), digits, 0);
        write(random.nextLong(), digits, DIGITS / 2);
        return new String(digits, StandardCharsets.ISO_8859_1);
    }

    private static void write(long bits, byte[] digits, int from) {
        for (int i = 0; i < DIGITS / 2; i++) {
            digits[from + i] = HEXADECIMAL[(int) (bits >>> BITS_A_DIGIT * i) & HEXADECIMAL.length - 1];
        }
    }
}
