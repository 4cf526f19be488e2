package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads what callers are told when something is refused: {@code { status: 409, message: ..., field: ... }}. */
final class RefusalReader {

    static final List<String> REFUSAL_KEYS = List.of("status", "code", "message", "field");

    private static final Pattern CODE = Pattern.compile("[a-z][a-z0-9-]{0,62}");
    private static final int LEAST_STATUS = 400;
    private static final int MOST_STATUS = 599;

    private final Findings findings;

    RefusalReader(Findings findings) {
        this.findings = findings;
    }

    /**
     * One refusal; null when the key is absent. A status that is not said is 0.
     *
     * @param name what it is a refusal of, which its code is made of unless it says one
     */
    @Nullable
    RefusalRule read(MappingReader keys, String key, String name) {
        Node node = keys.node(key);
        return node == null ? null : read(node, name);
    }

    private @Nullable RefusalRule read(Node node, String name) {
        return MappingReader.open(node, "a refusal", findings, REFUSAL_KEYS)
                .map(keys -> {
                    Integer status = keys.wholeNumber("status", LEAST_STATUS, MOST_STATUS);
                    return new RefusalRule(
                            code(keys, name),
                            status == null ? 0 : status,
                            keys.text("message"),
                            keys.text("field"),
                            keys.place());
                })
                .orElse(null);
    }

    private static String code(MappingReader keys, String name) {
        String code = keys.text("code");
        if (code != null && !CODE.matcher(code).matches()) {
            keys.unfit("code", "must be a word such as booking-taken", "Use small letters, digits and hyphens.");
        }
        return code == null ? RefusalRule.code(name) : code;
    }

    /**
     * {@code conditions: { 45001: { status: 409 }, booking_lasts: { status: 422, message: ... } }}
     *
     * @param inherited true for a whole module's
     */
    List<ConditionRule> conditions(MappingReader keys, boolean inherited) {
        List<ConditionRule> rules = new ArrayList<>();
        Node node = keys.node("conditions");
        if (node != null) {
            MappingReader.openAny(node, "conditions", findings).ifPresent(matches -> {
                for (Node.Entry entry : matches.entries()) {
                    RefusalRule refusal = read(entry.value(), entry.key());
                    if (refusal != null && refusal.status() == 0) {
                        matches.unfit(entry.key(), "needs a status", "Write it as '{ status: 409, message: ... }'.");
                    } else if (refusal != null) {
                        rules.add(new ConditionRule(entry.key(), refusal, inherited));
                    }
                }
            });
        }
        return rules;
    }
}
