package tidybridge.engine;

import java.time.Duration;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Isolation;

/**
 * How a transaction is run.
 *
 * @param isolation null for the source's own
 * @param readOnly true when the database itself must refuse every change
 * @param timeout for all of its statements together
 */
public record TransactionSettings(@Nullable Isolation isolation, boolean readOnly, Duration timeout, Ending ending) {

    /** What becomes of the changes when all went well. */
    public enum Ending {
        COMMIT,
        /** There is no transaction around the work: what it calls begins and ends its own. */
        ITS_OWN,
        /** For rehearsals: nothing is ever kept. */
        ROLL_BACK
    }
}
