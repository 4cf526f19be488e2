package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.capacity.PacedOutput;

/** A servlet's request and response. Used by one thread. */
final class HttpExchange implements Exchange {

    private final HttpServletRequest request;
    private final HttpServletResponse response;
    private final BytesInFlight.Share share;
    private @Nullable OutputStream out;
    private Duration longest = PacedOutput.LONGEST;

    HttpExchange(HttpServletRequest request, HttpServletResponse response, BytesInFlight.Share share) {
        this.request = request;
        this.response = response;
        this.share = share;
    }

    @Override
    public String path() {
        return request.getRequestURI();
    }

    @Override
    public @Nullable String query() {
        return request.getQueryString();
    }

    @Override
    public void status(int status) {
        response.setStatus(status);
    }

    @Override
    public void header(String name, String value) {
        if (name.equals("Vary")) {
            // the origin may stand there already
            response.addHeader(name, value);
            return;
        }
        response.setHeader(name, value);
    }

    @Override
    public void contentType(String mediaType) {
        response.setContentType(mediaType);
    }

    @Override
    public void contentLength(int bytes) {
        response.setContentLength(bytes);
    }

    @Override
    public void trailers(List<String> names, Supplier<Map<String, String>> fields) {
        if (request.getProtocol().equals("HTTP/1.0")) {
            return;
        }
        response.setHeader("Trailer", String.join(", ", names));
        response.setTrailerFields(fields);
    }

    @Override
    public void longest(Duration time) {
        longest = time;
    }

    @Override
    public OutputStream out() throws IOException {
        if (out == null) {
            out = new PacedOutput(response.getOutputStream(), longest);
        }
        return out;
    }

    @Override
    public boolean hold(int bytes) {
        return share.hold(bytes);
    }
}
