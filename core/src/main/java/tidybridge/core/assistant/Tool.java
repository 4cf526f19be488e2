package tidybridge.core.assistant;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.Method;

/**
 * An operation that an assistant may use. Immutable and thread-safe.
 *
 * @param name unique in its module: letters, digits and underscores
 * @param input what it takes, an object of JSON Schema 2020-12 without references
 * @param output what it answers, likewise; null where that cannot be told beforehand
 * @param rehearsal true for one that does the operation and has it undone
 * @param arguments what is behind the names of the input, but for the body
 * @param body the input's name for the request's body; null for an operation without one
 */
public record Tool(
        String name,
        String title,
        String description,
        Map<String, Object> input,
        @Nullable Map<String, Object> output,
        boolean rehearsal,
        OperationTerms operation,
        Map<String, Argument> arguments,
        @Nullable String body) {

    /**
     * What an argument is in the request.
     *
     * @param in {@code path}, {@code query}, {@code header} or {@code cookie}
     * @param deep true for an object of conditions: {@code {"lte": 20}} is sent as {@code name[lte]=20}
     */
    public record Argument(String name, String in, boolean deep) {}

    public Tool {
        arguments = Collections.unmodifiableMap(new LinkedHashMap<>(arguments));
    }

    /** True when data stay as they are, whatever it is told. */
    public boolean isRead() {
        return operation.reads();
    }

    /** True when it may take something away that was there. */
    public boolean isDestructive() {
        return !isRead() && !rehearsal;
    }

    /** True when doing it twice leaves what doing it once leaves. */
    public boolean isIdempotent() {
        return isRead() || rehearsal || operation.method() == Method.PUT || operation.method() == Method.DELETE;
    }
}
