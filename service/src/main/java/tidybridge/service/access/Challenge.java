package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.List;

/** How callers are told what to show (RFC 9110, 11.6.1). */
public final class Challenge {

    private static final String REALM = " realm=\"Tidy Bridge\"";

    /** For keys and tokens (RFC 6750). */
    public static final String BEARER = "Bearer" + REALM;

    /** For applications with a name and a key (RFC 7617). */
    public static final String BASIC = "Basic" + REALM + ", charset=\"UTF-8\"";

    private Challenge() {}

    /**
     * Adds to a 401 of the gateway that a name and a key are taken too (RFC 7617), but not for the service's own pages: there a browser
     * would ask for a password by itself, over the page.
     */
    public static void add(HttpServletRequest request, HttpServletResponse response) {
        if (!"same-origin".equals(request.getHeader("Sec-Fetch-Site"))) {
            response.addHeader("WWW-Authenticate", BASIC);
        }
    }

    /** For somebody known who lacks one of these privileges (RFC 6750, 3.1); a scope is named like its privilege. */
    public static String scope(List<String> privileges) {
        return BEARER + ", error=\"insufficient_scope\""
                + (privileges.size() == 1 ? ", scope=\"" + privileges.getFirst() + "\"" : "");
    }
}
