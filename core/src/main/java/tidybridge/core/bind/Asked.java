package tidybridge.core.bind;

import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.definition.Total;

/**
 * What a request asks of the service itself, checked.
 *
 * @param limit rows asked for; 0 when the operation is no collection
 * @param all true when all rows are asked for, of which {@link #limit} are answered at most
 * @param start where the page begins
 * @param sort what to sort by; null for the operation's own order
 * @param fields the fields to answer, with commas between them; null for all
 * @param total how to count the rows; null for not at all
 * @param format what to answer in; null when the address does not say
 * @param header whether a table begins with the names of its columns; null when the address does not say
 * @param preview true for a caller who only asks what would be changed
 */
public record Asked(
        int limit,
        boolean all,
        PageStart start,
        @Nullable String sort,
        @Nullable String fields,
        @Nullable Total total,
        @Nullable RowFormat format,
        @Nullable Boolean header,
        boolean preview) {}
