package tidybridge.records;

import static tidybridge.records.generated.Tables.ACCESS_NUMBER;

import java.util.function.ToIntFunction;
import org.jooq.DSLContext;

/** One change of who may what: a transaction that raises the number by which services notice it, with who made it. */
final class AccessChange {

    private AccessChange() {}

    /** True when the work changed something; then the number is raised and the entry written with it. */
    static boolean make(DSLContext db, AuditEntry entry, ToIntFunction<DSLContext> work) {
        return db.transactionResult(transaction -> {
            DSLContext inside = transaction.dsl();
            begin(inside);
            boolean changed = work.applyAsInt(inside) > 0;
            if (changed) {
                AuditTrail.write(inside, entry);
            }
            return changed;
        });
    }

    /** What each begins with, in a transaction of its own. */
    static void begin(DSLContext inside) {
        // taken first, so that changes follow one another
        inside.update(ACCESS_NUMBER)
                .set(ACCESS_NUMBER.NUMBER, ACCESS_NUMBER.NUMBER.plus(1))
                .where(ACCESS_NUMBER.ID.eq(AccessRows.ONLY))
                .execute();
        AuditTrail.lock(inside);
    }
}
