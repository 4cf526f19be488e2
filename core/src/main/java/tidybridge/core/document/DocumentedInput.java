package tidybridge.core.document;

import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.In;
import tidybridge.core.text.Written;

/**
 * What callers send.
 *
 * @param name in the request; of a body's part, its names with dots between them, and empty for the whole of it
 * @param pointer where a body's part stands (RFC 6901); empty for everything else, and for the whole body
 * @param usual what counts when it is absent; null for none
 */
public record DocumentedInput(
        String name,
        In in,
        String pointer,
        DocumentedValue value,
        boolean required,
        @Nullable Written usual) {

    /** True when the statement always has a value of it. */
    public boolean isGiven() {
        return required || usual != null;
    }
}
