package tidybridge.service.assistant;

import jakarta.servlet.ServletOutputStream;
import jakarta.servlet.WriteListener;
import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpServletResponseWrapper;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import tidybridge.service.traffic.RequestId;

/** What a tool's call answers, kept apart from the answer to the message; an answer that is too large ends the call. Used by one thread. */
final class ToolHttpResponse extends HttpServletResponseWrapper {

    /** The largest answer that an assistant is given, in bytes. */
    static final int LARGEST_BYTES = 512 * 1024;

    private final Map<String, List<String>> headers = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private int status = SC_OK;
    private boolean tooLarge;

    ToolHttpResponse(HttpServletResponse message) {
        super(message);
        setHeader(RequestId.FIELD, RequestId.of(message));
    }

    byte[] body() {
        return bytes.toByteArray();
    }

    /** True when the answer did not fit, so that none of it is of use. */
    boolean isTooLarge() {
        return tooLarge;
    }

    @Override
    public void setStatus(int status) {
        this.status = status;
    }

    @Override
    public int getStatus() {
        return status;
    }

    @Override
    public void sendError(int status, String message) {
        this.status = status;
    }

    @Override
    public void sendError(int status) {
        this.status = status;
    }

    @Override
    public void sendRedirect(String location) {
        throw new IllegalStateException("a call is never sent elsewhere");
    }

    @Override
    public void setHeader(String name, @Nullable String value) {
        headers.remove(name);
        addHeader(name, value);
    }

    @Override
    public void addHeader(String name, @Nullable String value) {
        if (value != null) {
            headers.computeIfAbsent(name, key -> new ArrayList<>()).add(value);
        }
    }

    @Override
    public void setIntHeader(String name, int value) {
        setHeader(name, String.valueOf(value));
    }

    @Override
    public void addIntHeader(String name, int value) {
        addHeader(name, String.valueOf(value));
    }

    @Override
    public void setDateHeader(String name, long date) {
        throw new IllegalStateException("dates are written as texts");
    }

    @Override
    public void addDateHeader(String name, long date) {
        throw new IllegalStateException("dates are written as texts");
    }

    @Override
    public boolean containsHeader(String name) {
        return headers.containsKey(name);
    }

    @Override
    public @Nullable String getHeader(String name) {
        List<String> values = headers.get(name);
        return values == null ? null : values.getFirst();
    }

    @Override
    public Collection<String> getHeaders(String name) {
        return headers.getOrDefault(name, List.of());
    }

    @Override
    public Collection<String> getHeaderNames() {
        return headers.keySet();
    }

    @Override
    public void addCookie(Cookie cookie) {
        throw new IllegalStateException("a call sets no cookie");
    }

    @Override
    public void setContentType(@Nullable String type) {
        setHeader("Content-Type", type);
    }

    @Override
    public @Nullable String getContentType() {
        return getHeader("Content-Type");
    }

    @Override
    public void setCharacterEncoding(@Nullable String charset) {
        // everything is UTF-8
    }

    @Override
    public void setContentLength(int length) {
        // counted as it comes
    }

    @Override
    public void setContentLengthLong(long length) {
        // counted as it comes
    }

    @Override
    public void setTrailerFields(@Nullable Supplier<Map<String, String>> fields) {
        // an answer that came whole needs no sum behind it
    }

    @Override
    public void setBufferSize(int size) {
        // all of it is kept
    }

    @Override
    public void flushBuffer() {
        // nobody waits for a part of it
    }

    @Override
    public boolean isCommitted() {
        return false;
    }

    @Override
    public void reset() {
        resetBuffer();
        headers.clear();
        status = SC_OK;
    }

    @Override
    public void resetBuffer() {
        bytes.reset();
    }

    @Override
    public PrintWriter getWriter() {
        return new PrintWriter(getOutputStream(), true, StandardCharsets.UTF_8);
    }

    @Override
    public ServletOutputStream getOutputStream() {
        return new ServletOutputStream() {
            @Override
            public boolean isReady() {
                return true;
            }

            @Override
            public void setWriteListener(WriteListener listener) {
                throw new IllegalStateException("what is kept in memory is written at once");
            }

            @Override
            public void write(int value) throws IOException {
                write(new byte[] {(byte) value}, 0, 1);
            }

            @Override
            public void write(byte[] source, int offset, int length) throws IOException {
                if (bytes.size() + length > LARGEST_BYTES) {
                    tooLarge = true;
                    throw new IOException("the answer is too large for a tool");
                }
                bytes.write(source, offset, length);
            }
        };
    }
}
