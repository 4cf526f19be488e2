package tidybridge.core.bind;

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
}
