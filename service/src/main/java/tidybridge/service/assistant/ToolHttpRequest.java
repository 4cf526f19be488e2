package tidybridge.service.assistant;

import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import java.io.BufferedReader;
import java.io.ByteArrayInputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.Enumeration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.assistant.ToolRequest;

/**
 * The call that a tool stands for, on the connection and with the credential of the message that asked for it. Cookies and everything else
 * that a browser adds by itself stay behind. Used by one thread.
 */
final class ToolHttpRequest extends HttpServletRequestWrapper {

    /** What is as true of the call as of the message. */
    private static final List<String> KEPT = List.of("Authorization", "Host", "traceparent");

    private final String path;
    private final ToolRequest asked;
    private final Map<String, String> headers = new LinkedHashMap<>();
    private final byte[] body;

    /** @param path of the module, {@code /api/moorings/v1} */
    ToolHttpRequest(HttpServletRequest message, String path, ToolRequest asked) {
        super(message);
        this.path = path + asked.path();
        this.asked = asked;
        this.body = asked.body() == null ? new byte[0] : asked.body().getBytes(StandardCharsets.UTF_8);
        for (String name : KEPT) {
            String value = message.getHeader(name);
            if (value != null) {
                headers.put(name.toLowerCase(Locale.ROOT), value);
            }
        }
        headers.put("accept", "application/json");
        asked.headers().forEach((name, value) -> headers.putIfAbsent(name.toLowerCase(Locale.ROOT), value));
        if (body.length > 0) {
            headers.put("content-length", String.valueOf(body.length));
        }
    }

    /** The message itself, as far as who sends it is concerned. */
    static HttpServletRequest sender(HttpServletRequest message, String path) {
        return new ToolHttpRequest(message, path, new ToolRequest("GET", "", null, Map.of(), Map.of(), Map.of(), null));
    }

    @Override
    public String getMethod() {
        return asked.method();
    }

    @Override
    public String getRequestURI() {
        return path;
    }

    @Override
    public StringBuffer getRequestURL() {
        return new StringBuffer(getScheme() + "://" + getHeader("Host") + path);
    }

    @Override
    public String getServletPath() {
        return path;
    }

    @Override
    public @Nullable String getPathInfo() {
        return null;
    }

    @Override
    public @Nullable String getQueryString() {
        return asked.query();
    }

    @Override
    public @Nullable String getHeader(String name) {
        return headers.get(name.toLowerCase(Locale.ROOT));
    }

    @Override
    public Enumeration<String> getHeaders(String name) {
        String value = getHeader(name);
        return Collections.enumeration(value == null ? List.of() : List.of(value));
    }

    @Override
    public Enumeration<String> getHeaderNames() {
        return Collections.enumeration(headers.keySet());
    }

    @Override
    public Cookie @Nullable [] getCookies() {
        return asked.cookies().entrySet().stream()
                .map(one -> new Cookie(one.getKey(), one.getValue()))
                .toArray(Cookie[]::new);
    }

    @Override
    public @Nullable String getContentType() {
        return getHeader("Content-Type");
    }

    @Override
    public int getContentLength() {
        return body.length;
    }

    @Override
    public long getContentLengthLong() {
        return body.length;
    }

    @Override
    public BufferedReader getReader() {
        return new BufferedReader(new InputStreamReader(getInputStream(), StandardCharsets.UTF_8));
    }

    @Override
    public ServletInputStream getInputStream() {
        ByteArrayInputStream bytes = new ByteArrayInputStream(body);
        return new ServletInputStream() {
            @Override
            public boolean isFinished() {
                return bytes.available() == 0;
            }

            @Override
            public boolean isReady() {
                return true;
            }

            @Override
            public void setReadListener(ReadListener listener) {
                throw new IllegalStateException("what is in memory is read at once");
            }

            @Override
            public int read() {
                return bytes.read();
            }

            @Override
            public int read(byte[] target, int offset, int length) {
                return bytes.read(target, offset, length);
            }
        };
    }
}
