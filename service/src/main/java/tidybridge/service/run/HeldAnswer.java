package tidybridge.service.run;

import java.time.ZonedDateTime;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What a change answers, held back until what it tells has come true. Not thread-safe. */
public final class HeldAnswer {

    private static final byte[] NOTHING = {};

    private final Map<String, String> fields = new LinkedHashMap<>();
    private int status;
    private byte[] body = NOTHING;
    private @Nullable String mediaType;
    private @Nullable String location;
    private @Nullable String tag;
    private @Nullable ZonedDateTime modified;

    /**
     * Begins an answer.
     *
     * @param status as the definition says
     */
    HeldAnswer(int status) {
        this.status = status;
    }

    public int status() {
        return status;
    }

    void status(int status) {
        this.status = status;
    }

    /** What the row says beside the body; the values may hold anything. */
    public Map<String, String> fields() {
        return fields;
    }

    void field(String name, String value) {
        fields.put(name, value);
    }

    /** Where what was made is found, below its module; null when nothing was made. */
    public @Nullable String location() {
        return location;
    }

    void location(String path) {
        location = path;
    }

    /** The entity tag of what is there now; null when nothing tells it. */
    public @Nullable String tag() {
        return tag;
    }

    /** When what is there now was changed; null when nothing tells it. */
    public @Nullable ZonedDateTime modified() {
        return modified;
    }

    void state(@Nullable String tag, @Nullable ZonedDateTime modified) {
        this.tag = tag;
        this.modified = modified;
    }

    /** Null when there is no body. */
    public @Nullable String mediaType() {
        return mediaType;
    }

    public byte[] body() {
        return body;
    }

    void body(String mediaType, byte[] bytes) {
        this.mediaType = mediaType;
        this.body = bytes;
    }
}
