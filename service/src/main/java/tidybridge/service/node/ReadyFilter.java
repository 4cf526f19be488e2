package tidybridge.service.node;

import jakarta.servlet.FilterChain;
import jakarta.servlet.http.HttpFilter;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;

/**
 * Answers {@code /ready} for whatever spreads requests over several nodes: 200 while this one takes them, 503 once it was told to end. It
 * asks neither the record store nor a source, which all nodes have in common.
 */
public final class ReadyFilter extends HttpFilter {

    /** Where it answers. */
    public static final String PATH = "/ready";

    private final transient Departure departure;

    public ReadyFilter(Departure departure) {
        this.departure = departure;
    }

    @Override
    protected void doFilter(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException {
        boolean leaving = departure.hasBegun();
        response.setStatus(leaving ? HttpServletResponse.SC_SERVICE_UNAVAILABLE : HttpServletResponse.SC_OK);
        response.setHeader("Cache-Control", "no-store");
        response.setContentType("text/plain;charset=UTF-8");
        response.getOutputStream().write((leaving ? "leaving\n" : "ready\n").getBytes(StandardCharsets.UTF_8));
    }
}
