package tidybridge.core.contract;

import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.definition.BatchRule;

/**
 * What is promised of a request's body.
 *
 * @param batch null where a body is not a list of rows
 */
public record BodyTerms(BodyKind kind, @Nullable BatchTerms batch) {

    /** How many rows one request may have, and what becomes of the others when one is refused. */
    public record BatchTerms(int most, BatchRule.Outcome outcome) {}
}
