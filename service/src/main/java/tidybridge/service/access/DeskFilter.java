package tidybridge.service.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpFilter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.net.InetAddress;
import java.util.EnumSet;
import org.jspecify.annotations.Nullable;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.Problems;
import tidybridge.service.capacity.BodyIntake;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.capacity.HeldRequest;
import tidybridge.service.run.Refusal;

/**
 * Guards the management API: only from this machine, only under a loopback name (so that no foreign page can reach it by a name of
 * its own), only with the administrator's token or a console session, and for changes by cookie only from the console's own pages.
 */
public final class DeskFilter extends HttpFilter {

    private static final String SIGN_IN = "/desk/sessions";

    /** Whoever is not signed in yet has little to say, in bytes. */
    private static final int LARGEST_SIGN_IN = 4 * 1024;

    /** All texts of a large workspace together, in bytes. */
    private static final int LARGEST_BODY = 8 * 1024 * 1024;

    private final transient Administrator administrator;
    private final transient Sessions sessions;
    private final transient BytesInFlight bytes;

    public DeskFilter(Administrator administrator, Sessions sessions, BytesInFlight bytes) {
        this.administrator = administrator;
        this.sessions = sessions;
        this.bytes = bytes;
    }

    @Override
    protected void doFilter(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        Problem refusal = refusal(request);
        if (refusal == null) {
            response.setHeader("Cache-Control", "no-store");
            // until roles are given out, whoever gets here is the administrator
            DeskPrivilege.grant(request, EnumSet.allOf(DeskPrivilege.class));
            pass(request, response, chain);
        } else {
            Problems.write(response, refusal);
        }
    }

    private void pass(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        if (!BodyIntake.hasBody(request)) {
            chain.doFilter(request, response);
            return;
        }
        try (BytesInFlight.Share share = bytes.share()) {
            byte[] body = BodyIntake.read(request, isSignIn(request) ? LARGEST_SIGN_IN : LARGEST_BODY, share);
            chain.doFilter(new HeldRequest(request, body), response);
        } catch (Refusal e) {
            Problems.write(response, e.problem());
        }
    }

    private @Nullable Problem refusal(HttpServletRequest request) throws IOException {
        boolean here = InetAddress.getByName(request.getRemoteAddr()).isLoopbackAddress()
                && HostNames.isLoopback(request.getServerName());
        if (!here) {
            return Problem.of(
                    ProblemKind.NOT_ALLOWED,
                    "The management API answers on this machine only; call it as http://127.0.0.1 from there.");
        }
        boolean bySignature = administrator.admits(request.getHeader("Authorization"));
        if (!bySignature && !OwnPages.isSafe(request.getMethod()) && !isOwnPage(request)) {
            return Problem.of(
                    ProblemKind.NOT_ALLOWED,
                    "A change must come from the console's own pages, or carry the administrator's token.");
        }
        if (bySignature || isSignIn(request) || sessions.admits(request)) {
            return null;
        }
        return Problem.of(
                ProblemKind.SIGN_IN_NEEDED,
                "The management API needs the administrator's token as 'Authorization: Bearer ...'; it lies in the service's home folder, in "
                        + Administrator.FILE + ".");
    }

    private static boolean isSignIn(HttpServletRequest request) {
        return request.getMethod().equals("POST") && request.getRequestURI().equals(SIGN_IN);
    }

    /** Browsers send Origin with every unsafe request; whoever signs in may be no browser. */
    private static boolean isOwnPage(HttpServletRequest request) {
        String origin = request.getHeader("Origin");
        return origin == null ? isSignIn(request) : OwnPages.isOwnOrigin(origin, request);
    }
}
