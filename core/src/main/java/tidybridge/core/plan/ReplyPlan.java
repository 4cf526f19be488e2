package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What an answer says beside its body. Columns are those of the statement that answers and count from 0; -1 stands for none.
 *
 * @param status of the hoped-for answer
 * @param location where what was made is found, below the module; null for none
 * @param statusFrom the column of the status
 * @param messageFrom the column of a problem's message
 * @param tag null for answers without an entity tag
 * @param modified the column of the time of the last change
 */
public record ReplyPlan(
        int status,
        @Nullable Template location,
        int statusFrom,
        int messageFrom,
        List<Header> headers,
        @Nullable TagPlan tag,
        int modified) {

    /** A header field and the column of its value. */
    public record Header(String name, int column) {}

    /**
     * What the entity tag of a row is made of (RFC 9110, strong).
     *
     * @param column -1 for the representation
     * @param print tells answers of this shape from those of another release
     */
    public record TagPlan(int column, String print) {}

    public ReplyPlan {
        headers = List.copyOf(headers);
    }

    /** True when the row says something that is not in the body. */
    public boolean readsRow() {
        return statusFrom >= 0 || !headers.isEmpty() || tag != null && tag.column() >= 0 || modified >= 0;
    }
}
