package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a row that was read, or a page of them, says beside the body. Columns are those of the statement and count from 0.
 *
 * @param tag null for answers without an entity tag
 * @param modified the column of the time of the last change; -1 for none
 * @param fresh how long callers may use it again without asking; null for not at all
 */
public record RowReply(
        List<HeaderColumn> headers,
        @Nullable TagPlan tag,
        int modified,
        @Nullable Freshness fresh) {

    /**
     * What the entity tag of a row is made of (RFC 9110, strong).
     *
     * @param column -1 for the representation
     * @param print tells answers of this shape from those of another release
     */
    public record TagPlan(int column, String print) {}

    public RowReply {
        headers = List.copyOf(headers);
    }

    /** True when the row says something that is not in the body. */
    public boolean readsRow() {
        return !headers.isEmpty() || tag != null && tag.column() >= 0 || modified >= 0;
    }

    /** True when it can be told whether the row was changed. */
    public boolean tellsState() {
        return tag != null || modified >= 0;
    }
}
