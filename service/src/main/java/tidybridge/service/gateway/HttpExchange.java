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
    private @Nullable OutputStream coded;

    /** True once the length of the plain body was told. */
    private boolean isPlain;

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
        if (name.equals("Vary") || name.equals("Link")) {
            // the origin, or what takes the place of what is called, may stand there already
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
        if (bytes < ZstdCoding.LEAST_BYTES || !codes()) {
            response.setContentLength(bytes);
            isPlain = true;
        }
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
            OutputStream paced = new PacedOutput(response.getOutputStream(), longest);
            coded = !isPlain && codes() ? ZstdCoding.open(paced) : null;
            out = coded == null ? paced : coded;
        }
        return out;
    }

    @Override
    public boolean hold(int bytes) {
        return share.hold(bytes);
    }

    @Override
    public void end() throws IOException {
        if (coded != null) {
            coded.close();
        }
    }

    /** Chooses a content coding; an answer whose tag names its very bytes has none. */
    private boolean codes() {
        if (response.containsHeader("ETag")
                || !ZstdCoding.fits(request.getHeader("Accept-Encoding"), response.getContentType())) {
            return false;
        }
        if (!response.containsHeader("Content-Encoding")) {
            response.setHeader("Content-Encoding", ZstdCoding.NAME);
            response.addHeader("Vary", "Accept-Encoding");
        }
        return true;
    }
}
