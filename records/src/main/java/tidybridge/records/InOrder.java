package tidybridge.records;

import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;

/** Transactions that follow each other: each holds the lock of the audit trail, to which it adds, from its first moment on. */
final class InOrder {

    private InOrder() {}

    /** What one transaction does; whatever it throws undoes all of it. */
    interface Work<T> {
        T run(DSLContext db) throws Exception;
    }

    /** Does some work. What it throws that is checked comes as the cause of a {@link DataAccessException}; see {@link #rethrow}. */
    static <T> T run(DSLContext db, Work<T> work) {
        return db.transactionResult(transaction -> {
            AuditTrail.lock(transaction.dsl());
            return work.run(transaction.dsl());
        });
    }

    /** Throws what some work threw, when it is of one type. */
    static <E extends Exception> void rethrow(DataAccessException e, Class<E> own) throws E {
        if (own.isInstance(e.getCause())) {
            throw own.cast(e.getCause());
        }
    }
}
