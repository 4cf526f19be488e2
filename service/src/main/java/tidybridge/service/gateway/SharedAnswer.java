package tidybridge.service.gateway;

import java.time.ZonedDateTime;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.PageEnd;

/**
 * What one read told, whole, for others who asked the same while it ran. Meant to be read.
 *
 * @param found false when there is no such row
 * @param rows how many were read
 * @param head tells its header fields
 * @param body its bytes, of which the first {@code size} count
 * @param saysBeside true for a notation that has no place for what is said of a page
 */
record SharedAnswer(
        boolean found,
        long rows,
        List<Consumer<Exchange>> head,
        byte[] body,
        int size,
        @Nullable PageEnd end,
        boolean saysBeside,
        @Nullable String tag,
        @Nullable ZonedDateTime modified) {}
