package tidybridge.service.gateway;

import java.io.IOException;
import java.io.OutputStream;
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

    /** Takes the answer's bytes; asked for once there are some. */
    OutputStream out() throws IOException;
}
