package tidybridge.service.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpFilter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.Problems;
import tidybridge.service.traffic.RequestId;

/**
 * What every request meets first: it must name this service by a name of its own, so that no foreign page reaches it by pointing its own
 * name here, and browsers are told to take answers for nothing but what they say they are.
 */
public final class FrontDoor extends HttpFilter {

    /**
     * For the console's pages: code of their own only, no frames around them, nothing sent elsewhere. Its components write their styles as
     * the page runs.
     */
    private static final String PAGE_POLICY =
            "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; connect-src 'self';"
                    + " base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    /** For a year, whatever browsers know this service by is called by https only (RFC 6797). */
    private static final String ONLY_TLS = "max-age=31536000";

    private final transient HostNames names;
    private final boolean plainSecrets;

    /** @param plainSecrets whether credentials are taken from other machines over connections that others can read */
    public FrontDoor(HostNames names, boolean plainSecrets) {
        this.names = names;
        this.plainSecrets = plainSecrets;
    }

    @Override
    protected void doFilter(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        RequestId.tell(request, response);
        if (!request.getRequestURI().startsWith("/api/")) {
            response.setHeader("X-Content-Type-Options", "nosniff");
            response.setHeader("Content-Security-Policy", PAGE_POLICY);
            response.setHeader("Referrer-Policy", "no-referrer");
        }
        if (request.isSecure()) {
            response.setHeader("Strict-Transport-Security", ONLY_TLS);
        }
        if (names.include(request.getServerName())) {
            if (plainSecrets || !PlainSecret.isIn(request)) {
                chain.doFilter(request, response);
            } else {
                Problems.write(response, PlainSecret.problem(request.getRemoteAddr()));
            }
        } else {
            Problems.write(
                    response,
                    Problem.of(
                            ProblemKind.HOST_UNKNOWN,
                            "This service is not called by the name in 'Host'; its owner can add the name to tidy.names."));
        }
    }
}
