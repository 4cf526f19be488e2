package tidybridge.service.gateway;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.Problem;

/** An answer that is held back until what it tells has come true. Not thread-safe. */
public final class Reply {

    private static final byte[] NOTHING = {};

    private int status;
    private final Map<String, String> headers = new LinkedHashMap<>();
    private @Nullable String contentType;
    private byte[] body = NOTHING;

    Reply(int status) {
        this.status = status;
    }

    /** An answer that was given before. */
    static Reply stored(int status, Map<String, String> headers, @Nullable String contentType, byte[] body) {
        Reply reply = new Reply(status);
        reply.headers.putAll(headers);
        reply.contentType = contentType;
        reply.body = body;
        return reply;
    }

    /** A problem as an answer that can be given again. */
    static Reply of(Problem problem) {
        Reply reply = new Reply(problem.status());
        reply.headers.put("Cache-Control", "no-store");
        reply.body(Problem.MEDIA_TYPE, problem.json());
        return reply;
    }

    int status() {
        return status;
    }

    void status(int status) {
        this.status = status;
    }

    void header(String name, String value) {
        headers.put(name, withoutBreaks(value));
    }

    /** A value of the data must not begin another header field. */
    static String withoutBreaks(String value) {
        byte[] bytes = value.strip().getBytes(StandardCharsets.UTF_8);
        StringBuilder safe = new StringBuilder(bytes.length);
        for (byte b : bytes) {
            safe.append(b < ' ' || b == 0x7f ? ' ' : (char) b);
        }
        return safe.toString();
    }

    Map<String, String> headers() {
        return headers;
    }

    void body(String mediaType, byte[] bytes) {
        contentType = mediaType;
        body = bytes;
    }

    byte[] body() {
        return body;
    }

    @Nullable
    String contentType() {
        return contentType;
    }

    public void send(Exchange exchange) throws IOException {
        exchange.status(status);
        headers.forEach(exchange::header);
        if (contentType != null) {
            exchange.contentType(contentType);
        }
        if (status != HttpStatuses.NO_CONTENT) {
            exchange.contentLength(body.length);
        }
        if (body.length > 0) {
            exchange.out().write(body);
        }
    }
}
