package tidybridge.service.access;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tidybridge.core.access.AddressList;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.capacity.LineLimit;

/** A credential that came from another machine over a connection that others can read. */
final class PlainSecret {

    private static final Logger LOG = LoggerFactory.getLogger(PlainSecret.class);
    private static final LineLimit LIMIT = new LineLimit(1, Duration.ofMinutes(1));
    private static final AddressList THIS_MACHINE = AddressList.of(java.util.List.of("127.0.0.0/8", "::1"));

    private PlainSecret() {}

    static boolean isIn(HttpServletRequest request) {
        return !request.isSecure() && carriesSecret(request) && !THIS_MACHINE.contains(request.getRemoteAddr());
    }

    private static boolean carriesSecret(HttpServletRequest request) {
        if (request.getHeader("Authorization") != null
                || request.getMethod().equals("POST") && takesSecrets(request.getRequestURI())) {
            return true;
        }
        Cookie[] cookies = request.getCookies();
        if (cookies != null) {
            for (Cookie cookie : cookies) {
                if (cookie.getName().equals(Credentials.COOKIE)) {
                    return true;
                }
            }
        }
        return false;
    }

    private static boolean takesSecrets(String path) {
        return path.startsWith("/oauth/") || path.startsWith("/team/");
    }

    /** What is answered; the secret was not looked at. */
    static Problem problem(String address) {
        if (LIMIT.ask(System.nanoTime()) != LineLimit.NONE) {
            LOG.warn(
                    "A credential came from {} over a connection that is not encrypted, and was refused; docs/operating.md, 'Transport security', tells what to set.",
                    address);
        }
        return Problem.of(
                ProblemKind.TLS_NEEDED,
                "A credential came over a connection that is not encrypted, and was not looked at; call by https, and have the credential replaced. Behind a proxy that does https, the service must know the proxy (tidy.proxies).");
    }
}
