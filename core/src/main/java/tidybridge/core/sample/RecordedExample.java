package tidybridge.core.sample;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * What an operation really answered to the example of its text, to a caller without any privilege.
 *
 * @param operation its label, {@code GET /berths}
 * @param call the path that was called, with its query, below the module
 * @param body as JSON; null when there is no good answer
 * @param lost true when there was a good answer once and is none any more
 */
public record RecordedExample(
        String operation, String call, int status, @Nullable String body, boolean lost) {

    /** The longest body that is kept, in characters. */
    public static final int LONGEST = 16 * 1024;

    private static final JsonMapper JSON = JsonMapper.shared();

    /** The same without its answer. */
    public RecordedExample withoutBody() {
        return new RecordedExample(operation, call, status, null, lost);
    }

    /** The same where there was a good answer once. */
    public RecordedExample asLost() {
        return new RecordedExample(operation, call, status, null, true);
    }

    /** As they are kept. */
    public static String write(List<RecordedExample> examples) {
        return JSON.writeValueAsString(examples);
    }

    /** Reads what {@link #write} wrote; none where it cannot be read. */
    public static List<RecordedExample> read(String text) {
        try {
            return JSON.readValue(text, new TypeReference<List<RecordedExample>>() {});
        } catch (JacksonException e) {
            return List.of();
        }
    }

    /** The body in lines, for people; null when there is none. */
    public @Nullable String lines() {
        return body == null ? null : JsonLines.of(body);
    }
}
