package tidybridge.service.run;

import tidybridge.core.definition.RowFormat;

/**
 * How rows are written for a caller.
 *
 * @param header true when a table begins with the names of its columns
 */
public record Rendition(RowFormat format, boolean header) {

    /** What callers get who ask for nothing else. */
    public static final Rendition JSON = new Rendition(RowFormat.JSON, true);
}
