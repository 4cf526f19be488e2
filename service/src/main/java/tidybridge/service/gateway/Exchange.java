package tidybridge.service.gateway;

import java.io.IOException;
import java.io.OutputStream;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Where an operation's answer goes: an HTTP response, or memory for somebody who tries it. */
public interface Exchange {

    /** The path that was called. */
    String path();

    /** The raw query, null for none. */
    @Nullable
    String query();

    void status(int status);

    void header(String name, String value);

    void contentType(String mediaType);

    void contentLength(int bytes);

    /** Asks to hold so many more bytes of the answer in memory; false when others need the room. */
    boolean hold(int bytes);

    /**
     * Says what follows the body (RFC 9110, 6.5), before its first byte leaves; nothing where the caller's protocol has no place for it.
     *
     * @param names of the fields that may follow
     * @param fields asked for once the body has ended
     */
    void trailers(List<String> names, Supplier<Map<String, String>> fields);

    /** Lets the body take so long to leave. */
    void longest(Duration time);

    /** Says that all bytes of a whole answer were given. */
    void end() throws IOException;

    /** Takes the answer's bytes; asked for once there are some. */
    OutputStream out() throws IOException;
}
