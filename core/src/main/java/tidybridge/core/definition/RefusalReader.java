package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads what callers are told when something is refused: {@code { status: 409, message: ..., field: ... }}. */
final class RefusalReader {

    static final List<String> REFUSAL_KEYS = List.of("status", "message", "field");

    private static final int LEAST_STATUS = 400;
    private static final int MOST_STATUS = 599;

    private final Findings findings;

    RefusalReader(Findings findings) {
        this.findings = findings;
    }

    /** One refusal; null when the key is absent. A status that is not said is 0. */
    @Nullable
    RefusalRule read(MappingReader keys, String key) {
        Node node = keys.node(key);
        return node == null ? null : read(node);
    }

    private @Nullable RefusalRule read(Node node) {
        return MappingReader.open(node, "a refusal", findings, REFUSAL_KEYS)
                .map(keys -> {
                    Integer status = keys.wholeNumber("status", LEAST_STATUS, MOST_STATUS);
                    return new RefusalRule(
                            status == null ? 0 : status, keys.text("message"), keys.text("field"), keys.place());
                })
                .orElse(null);
    }

    /** {@code conditions: { 45001: { status: 409 }, booking_lasts: { status: 422, message: ... } }} */
    List<ConditionRule> conditions(MappingReader keys) {
        List<ConditionRule> rules = new ArrayList<>();
        Node node = keys.node("conditions");
        if (node != null) {
            MappingReader.openAny(node, "conditions", findings).ifPresent(matches -> {
                for (Node.Entry entry : matches.entries()) {
                    RefusalRule refusal = read(entry.value());
                    if (refusal != null && refusal.status() == 0) {
                        matches.unfit(entry.key(), "needs a status", "Write it as '{ status: 409, message: ... }'.");
                    } else if (refusal != null) {
                        rules.add(new ConditionRule(entry.key(), refusal));
                    }
                }
            });
        }
        return rules;
    }
}
