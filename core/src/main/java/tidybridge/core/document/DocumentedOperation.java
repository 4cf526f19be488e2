package tidybridge.core.document;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Method;

/**
 * An operation as a document tells of it.
 *
 * @param path with placeholders that routes can have; they are named as the inputs are
 * @param id null for none that a text can have
 * @param about one line; empty for none
 * @param statuses of all answers, the hoped-for one among them
 */
public record DocumentedOperation(
        Method method,
        String path,
        @Nullable String id,
        String about,
        boolean deprecated,
        List<DocumentedInput> inputs,
        DocumentedAnswer answer,
        List<Integer> statuses) {
    public DocumentedOperation {
        inputs = List.copyOf(inputs);
        statuses = List.copyOf(statuses);
    }

    /** {@code GET /berths/{berthId}} */
    public String label() {
        return method + " " + path;
    }
}
