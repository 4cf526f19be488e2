package tidybridge.service.gateway;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Caller;
import tidybridge.core.bind.Inputs;

/**
 * A servlet request as raw inputs.
 *
 * @param body what {@link RequestBodies} read; null for none
 * @param who tells who calls; asked only when an operation wants to know
 */
record CallInputs(
        HttpServletRequest request, String pathText, int[] captures, byte @Nullable [] body, Supplier<Caller> who)
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
        return request.getHeader(name);
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
        return who.get();
    }

    @Override
    public String requestId() {
        return RequestId.of(request);
    }

    @Override
    public Instant requestTime() {
        return Instant.now();
    }
}
