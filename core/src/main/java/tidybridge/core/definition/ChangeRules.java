package tidybridge.core.definition;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * How an operation changes data.
 *
 * @param transaction who begins and ends it
 * @param isolation null for the source's own
 * @param batch null for an operation on one request's values
 * @param precondition whether callers must say which state they mean to change; null when the text does not say
 * @param idempotencyKey whether callers must send a key that makes a repeated request harmless
 * @param preview true when callers may ask how many rows would be changed
 * @param conditions what callers are told of the database's conditions, the first that matches
 * @param place where the operation begins
 */
public record ChangeRules(
        TransactionOwner transaction,
        @Nullable Isolation isolation,
        @Nullable BatchRule batch,
        @Nullable Need precondition,
        Need idempotencyKey,
        boolean preview,
        List<ConditionRule> conditions,
        Place place) {
    public ChangeRules {
        conditions = List.copyOf(conditions);
    }
}
