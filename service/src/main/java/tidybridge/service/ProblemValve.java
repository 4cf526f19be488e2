package tidybridge.service;

import java.io.IOException;
import java.net.SocketTimeoutException;
import org.apache.catalina.connector.Request;
import org.apache.catalina.connector.Response;
import org.apache.catalina.valves.ErrorReportValve;
import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.traffic.RequestId;

/** Answers what the HTTP server refuses by itself, such as a malformed request line, with a problem document. */
public class ProblemValve extends ErrorReportValve {

    @Override
    protected void report(Request request, Response response, @Nullable Throwable thrown) {
        int status = response.getStatus();
        if (status < 400 || response.getContentWritten() > 0 || !response.setErrorReported()) {
            return;
        }
        ProblemKind kind = kind(status, request, thrown);
        String known = response.getHeader(RequestId.FIELD);
        String id = known == null ? RequestId.fresh() : known;
        byte[] body = Problem.of(kind, detail(kind)).json(id);
        try {
            response.setHeader(RequestId.FIELD, id);
            response.setStatus(kind.status());
            response.setContentType(Problem.MEDIA_TYPE);
            response.setContentLength(body.length);
            response.getOutputStream().write(body);
            response.finishResponse();
        } catch (IOException | IllegalStateException e) {
            // the caller is gone, or has its answer already
        }
    }

    /** The server says 501 for methods too. */
    private static ProblemKind kind(int status, Request request, @Nullable Throwable thrown) {
        if (thrown != null && thrown.getCause() instanceof SocketTimeoutException) {
            return ProblemKind.BODY_SLOW;
        }
        ProblemKind kind = ProblemKind.ofStatus(status);
        return kind == ProblemKind.CODING_UNKNOWN && request.getHeader("Transfer-Encoding") == null
                ? ProblemKind.METHOD_UNKNOWN
                : kind;
    }

    private static String detail(ProblemKind kind) {
        return switch (kind) {
            case BAD_INPUT -> "The request is not well-formed HTTP; check its address and header fields.";
            case URL_TOO_LONG -> "The address is too long; send less in the query.";
            case METHOD_UNKNOWN -> "This address does not answer that method.";
            case HEADERS_TOO_LARGE -> "The header fields are too large; send fewer or shorter ones.";
            default -> kind.meaning();
        };
    }
}
