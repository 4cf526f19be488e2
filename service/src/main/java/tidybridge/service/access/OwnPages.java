package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import org.jspecify.annotations.Nullable;

/**
 * Tells requests of the service's own pages from those that another page, or a form on another port of the same machine, makes a browser
 * send: a browser adds the session's cookie to both.
 */
public final class OwnPages {

    private OwnPages() {}

    /** True when the browser proves it (Fetch Metadata, or Origin); false for whoever sends no proof. */
    public static boolean sent(HttpServletRequest request) {
        String site = request.getHeader("Sec-Fetch-Site");
        if (site != null) {
            return site.equals("same-origin") || site.equals("none") && isSafe(request.getMethod());
        }
        return isOwnOrigin(request.getHeader("Origin"), request);
    }

    /** True when an origin is the very address that the request went to. */
    public static boolean isOwnOrigin(@Nullable String origin, HttpServletRequest request) {
        String host = request.getHeader("Host");
        if (origin == null || host == null) {
            return false;
        }
        try {
            return host.equalsIgnoreCase(URI.create(origin).getAuthority());
        } catch (IllegalArgumentException e) {
            return false;
        }
    }

    static boolean isSafe(String method) {
        return method.equals("GET") || method.equals("HEAD") || method.equals("OPTIONS");
    }
}
