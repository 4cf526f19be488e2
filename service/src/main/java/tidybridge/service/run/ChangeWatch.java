package tidybridge.service.run;

import tidybridge.engine.SourceFailure;
import tidybridge.engine.Transaction;

/** Something that looks at the transaction of a change around its steps. */
public interface ChangeWatch {

    /** Watches nothing. */
    ChangeWatch NOBODY = new ChangeWatch() {};

    default void before(Transaction transaction) throws SourceFailure {}

    /**
     * Looks at what was done, before it is kept.
     *
     * @throws Refusal to have everything rolled back
     */
    default void after(Transaction transaction, HeldAnswer answer) throws SourceFailure, Refusal {}
}
