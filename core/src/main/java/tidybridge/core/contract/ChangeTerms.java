package tidybridge.core.contract;

import tidybridge.core.definition.Need;

/**
 * What is promised of a change.
 *
 * @param readOnly true for several statements that only read
 * @param located true when it says where what was made is found
 * @param preview true when callers may ask how many rows would be changed
 * @param guarded true when callers may say which state they change
 * @param precondition whether they must
 * @param idempotencyKey whether callers must send one
 * @param tag true when it says the entity tag of what was changed or made
 * @param modified true when it says when what was changed or made was changed last
 */
public record ChangeTerms(
        boolean readOnly,
        boolean located,
        boolean preview,
        boolean guarded,
        Need precondition,
        Need idempotencyKey,
        boolean tag,
        boolean modified) {}
