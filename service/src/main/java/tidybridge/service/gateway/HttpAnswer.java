package tidybridge.service.gateway;

import java.io.IOException;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.Problem;
import tidybridge.service.run.HeldAnswer;

/**
 * A whole answer: it can be sent, kept, and sent again.
 *
 * @param mediaType null for none
 */
record HttpAnswer(
        int status, Map<String, String> headers, @Nullable String mediaType, byte[] body) {

    private static final int NO_CONTENT = 204;

    HttpAnswer {
        headers = Collections.unmodifiableMap(new LinkedHashMap<>(headers));
    }

    /**
     * What a change answers.
     *
     * @param module {@code moorings/v1}
     */
    static HttpAnswer of(HeldAnswer held, String module) {
        Map<String, String> headers = new LinkedHashMap<>();
        held.fields().forEach((name, value) -> headers.put(name, HeaderValues.safe(value)));
        String location = held.location();
        if (location != null) {
            headers.put("Location", HeaderValues.safe("/api/" + module + location));
        }
        if (held.tag() != null) {
            headers.put("ETag", held.tag());
        }
        if (held.modified() != null) {
            headers.put("Last-Modified", HttpTimes.write(held.modified()));
        }
        return new HttpAnswer(held.status(), headers, held.mediaType(), held.body());
    }

    /** A problem as an answer that can be given again. */
    static HttpAnswer of(Problem problem) {
        return new HttpAnswer(
                problem.status(), Map.of("Cache-Control", "no-store"), Problem.MEDIA_TYPE, problem.json());
    }

    void send(Exchange exchange) throws IOException {
        exchange.status(status);
        headers.forEach(exchange::header);
        if (mediaType != null) {
            exchange.contentType(mediaType);
        }
        if (status != NO_CONTENT) {
            exchange.contentLength(body.length);
        }
        if (body.length > 0) {
            exchange.out().write(body);
            exchange.end();
        }
    }
}
