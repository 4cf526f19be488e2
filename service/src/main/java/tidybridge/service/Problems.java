package tidybridge.service;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import tidybridge.core.problem.Problem;
import tidybridge.service.access.Challenge;
import tidybridge.service.run.Refusal;
import tidybridge.service.traffic.RequestId;

/** Writes problem documents to HTTP. */
public final class Problems {

    private static final String RETRY_SECONDS = "1";

    private Problems() {}

    /** Answers with the problem; what was buffered before is dropped. */
    public static void write(HttpServletResponse response, Problem problem) throws IOException {
        byte[] body = head(response, problem);
        response.getOutputStream().write(body);
    }

    /** Answers with a refusal. */
    public static void write(HttpServletResponse response, Refusal refusal) throws IOException {
        byte[] body = head(response, refusal);
        response.getOutputStream().write(body);
    }

    /** The same without the body, which is returned. */
    public static byte[] head(HttpServletResponse response, Refusal refusal) {
        byte[] body = head(response, refusal.problem());
        refusal.fields().forEach(response::setHeader);
        return body;
    }

    /** Sets status and header fields, and returns the body that would follow. */
    public static byte[] head(HttpServletResponse response, Problem problem) {
        byte[] body = problem.json(response.getHeader(RequestId.FIELD));
        response.resetBuffer();
        response.setStatus(problem.status());
        response.setContentType(Problem.MEDIA_TYPE);
        response.setContentLength(body.length);
        response.setHeader("Cache-Control", "no-store");
        if (problem.kind().isWorthRepeating()) {
            response.setHeader("Retry-After", RETRY_SECONDS);
        }
        if (problem.status() == HttpServletResponse.SC_UNAUTHORIZED) {
            response.setHeader("WWW-Authenticate", Challenge.BEARER);
        }
        return body;
    }
}
