package tidybridge.service.gateway;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Instant;
import java.util.Enumeration;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Caller;
import tidybridge.core.bind.Inputs;
import tidybridge.service.traffic.RequestId;

/**
 * A servlet request as raw inputs.
 *
 * @param body what {@link RequestBodies} read; null for none
 * @param arrival tells who calls; asked only when an operation wants to know
 */
record CallInputs(
        HttpServletRequest request,
        HttpServletResponse response,
        String pathText,
        int[] captures,
        byte @Nullable [] body,
        Arrival arrival)
        implements Inputs {

    @Override
    public @Nullable String query() {
        return request.getQueryString();
    }

    @Override
    public String path(int index) {
        return pathText.substring(captures[2 * index], captures[2 * index + 1]);
    }

    @Override
    public @Nullable String header(String name) {
        String first = request.getHeader(name);
        return first == null ? null : joined(request.getHeaders(name));
    }

    /** Several lines of one field are one list (RFC 9110, 5.3). */
    private static String joined(Enumeration<String> lines) {
        String first = lines.nextElement();
        if (!lines.hasMoreElements()) {
            return first;
        }
        StringBuilder all = new StringBuilder(first);
        while (lines.hasMoreElements()) {
            all.append(", ").append(lines.nextElement());
        }
        return all.toString();
    }

    @Override
    public @Nullable String cookie(String name) {
        Cookie[] cookies = request.getCookies();
        if (cookies != null) {
            for (Cookie cookie : cookies) {
                if (cookie.getName().equals(name)) {
                    return cookie.getValue();
                }
            }
        }
        return null;
    }

    @Override
    public Caller caller() {
        return arrival.caller();
    }

    @Override
    public String requestId() {
        return RequestId.of(response);
    }

    @Override
    public Instant requestTime() {
        return Instant.now();
    }
}
