package tidybridge.core.plan;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the answer of a change says beside its body. Columns are those of the statement that answers and count from 0; -1 stands for none.
 *
 * @param status of the hoped-for answer
 * @param location where what was made is found, below the module; null for none
 * @param statusFrom the column of the status
 * @param messageFrom the column of a problem's message
 */
public record ChangeReply(
        int status, @Nullable Template location, int statusFrom, int messageFrom, List<HeaderColumn> headers) {
    public ChangeReply {
        headers = List.copyOf(headers);
    }
}
