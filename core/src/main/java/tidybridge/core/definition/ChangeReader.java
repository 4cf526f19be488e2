package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;
import tidybridge.core.text.Place;

/** Reads how an operation changes data. */
final class ChangeReader {

    static final List<String> BATCH_KEYS = List.of("most", "outcome");

    private final MappingReader keys;
    private final Findings findings;

    ChangeReader(MappingReader keys, Findings findings) {
        this.keys = keys;
        this.findings = findings;
    }

    /**
     * Reads the rules.
     *
     * @param usual the module's conditions, which an operation's own come before
     */
    ChangeRules read(List<ConditionRule> usual, Place place) {
        List<ConditionRule> conditions = new ArrayList<>(new RefusalReader(findings).conditions(keys, false));
        conditions.addAll(usual);
        Need key = keys.oneOf("idempotency-key", Need.class, Need.OPTIONAL);
        TransactionOwner owner = keys.oneOf("transaction", TransactionOwner.class, TransactionOwner.SERVICE);
        return new ChangeRules(
                owner == null ? TransactionOwner.SERVICE : owner,
                keys.oneOf("isolation", Isolation.class, null),
                batch(),
                keys.oneOf("precondition", Need.class, null),
                key == null ? Need.OPTIONAL : key,
                keys.flag("preview"),
                conditions,
                place);
    }

    private @Nullable BatchRule batch() {
        Node node = keys.node("batch");
        if (node == null) {
            return null;
        }
        return MappingReader.open(node, "a batch", findings, BATCH_KEYS)
                .map(batch -> {
                    Integer most = batch.wholeNumber("most", 1, BatchRule.CEILING);
                    if (batch.node("outcome") == null) {
                        batch.required("outcome", "Add 'outcome: together' or 'outcome: separate'.");
                    }
                    BatchRule.Outcome outcome =
                            batch.oneOf("outcome", BatchRule.Outcome.class, BatchRule.Outcome.TOGETHER);
                    return new BatchRule(
                            most == null ? BatchRule.DEFAULT_MOST : most,
                            outcome == null ? BatchRule.Outcome.TOGETHER : outcome,
                            batch.place());
                })
                .orElse(null);
    }
}
