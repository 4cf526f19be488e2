package tidybridge.service.capacity;

import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import java.io.BufferedReader;
import java.io.ByteArrayInputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;

/** A request whose body was read already, within the bounds of {@link BodyIntake}. */
public final class HeldRequest extends HttpServletRequestWrapper {

    private final ByteArrayInputStream body;

    public HeldRequest(HttpServletRequest request, byte[] body) {
        super(request);
        this.body = new ByteArrayInputStream(body);
    }

    @Override
    public BufferedReader getReader() {
        return new BufferedReader(new InputStreamReader(body, StandardCharsets.UTF_8));
    }

    @Override
    public ServletInputStream getInputStream() {
        return new ServletInputStream() {
            @Override
            public boolean isFinished() {
                return body.available() == 0;
            }

            @Override
            public boolean isReady() {
                return true;
            }

            @Override
            public void setReadListener(ReadListener listener) {
                throw new IllegalStateException("the body is here already, and is read at once");
            }

            @Override
            public int read() {
                return body.read();
            }

            @Override
            public int read(byte[] target, int offset, int length) {
                return body.read(target, offset, length);
            }
        };
    }
}
