package tidybridge.engine;

import tidybridge.core.answer.Row;

/** The rows of a running statement, one after the other; the current one is read through {@link Row}. Not thread-safe. */
public interface Rows extends Row {

    /** Moves to the next row; false behind the last. */
    boolean next();
}
