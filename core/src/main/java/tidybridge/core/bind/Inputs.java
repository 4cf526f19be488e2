package tidybridge.core.bind;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** The raw inputs of one request. */
public interface Inputs {

    /** The raw query string without its question mark, null when the request has none. */
    @Nullable
    String query();

    /** A placeholder's text, still percent-encoded, counted from the left. */
    String path(int index);

    /** A header field's value, null when absent. */
    @Nullable
    String header(String name);

    /** A cookie's value, null when absent. */
    @Nullable
    String cookie(String name);

    /** The body as it came, of the media type the operation reads; null when the request has none. Asked for at most once. */
    byte @Nullable [] body();

    /** Who calls. */
    Caller caller();

    /** What the request is called in logs. */
    String requestId();

    /** When the request came. */
    Instant requestTime();
}
