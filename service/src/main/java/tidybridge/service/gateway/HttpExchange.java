package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStream;
import org.jspecify.annotations.Nullable;

/** A servlet's request and response. */
record HttpExchange(HttpServletRequest request, HttpServletResponse response) implements Exchange {

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
    public OutputStream out() throws IOException {
        return response.getOutputStream();
    }
}
