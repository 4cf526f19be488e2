package tidybridge.core.reference;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A status that an operation answers with, in words.
 *
 * @param status {@code 200}, or {@code default} for every other
 * @param title null for what is no problem
 * @param meaning what it means
 * @param problem the name of its page; null for what is no problem
 * @param rules what the module itself refuses with it
 * @param headers fields of the header that come with it
 */
public record StatusText(
        String status,
        @Nullable String title,
        String meaning,
        @Nullable String problem,
        List<Rule> rules,
        List<Rule> headers) {
    public StatusText {
        rules = List.copyOf(rules);
        headers = List.copyOf(headers);
    }

    /** A name, and what it means: the code of a refusal, or a field of a header. */
    public record Rule(String name, String meaning) {}
}
