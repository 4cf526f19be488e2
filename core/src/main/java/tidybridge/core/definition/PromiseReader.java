package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Node;

/** Reads {@code promise}: {@code { statuses: [200, 404], fields: { id: integer, note: { type: string, nullable: true } } }}. */
final class PromiseReader {

    static final List<String> KEYS = List.of("statuses", "fields");
    static final List<String> FIELD_KEYS = List.of("type", "nullable");
    private static final List<String> TYPES =
            Arrays.stream(ParameterType.values()).map(ParameterType::label).toList();

    private final Findings findings;

    PromiseReader(Findings findings) {
        this.findings = findings;
    }

    /** Null when the text promises nothing. */
    @Nullable
    PromiseRule read(MappingReader operation) {
        Node node = operation.node("promise");
        return node == null
                ? null
                : MappingReader.open(node, "a promise", findings, KEYS)
                        .map(promise -> new PromiseRule(promise.place(), statuses(promise), fields(promise)))
                        .orElse(null);
    }

    private static List<Integer> statuses(MappingReader promise) {
        List<Integer> statuses = new ArrayList<>();
        for (Node.Scalar status : promise.texts("statuses")) {
            if (status.text().matches("[2-5]\\d\\d")) {
                statuses.add(Integer.valueOf(status.text()));
            } else {
                promise.unfit(
                        "statuses", "cannot hold '" + status.text() + "'", "Write statuses of HTTP, as in [200, 404].");
            }
        }
        return statuses;
    }

    private List<PromiseRule.PromisedField> fields(MappingReader promise) {
        List<PromiseRule.PromisedField> fields = new ArrayList<>();
        Node node = promise.node("fields");
        if (node != null) {
            MappingReader.openAny(node, "promised fields", findings)
                    .ifPresent(named ->
                            named.entries().forEach(entry -> field(named, entry).ifPresent(fields::add)));
        }
        return fields;
    }

    private Optional<PromiseRule.PromisedField> field(MappingReader named, Node.Entry entry) {
        if (entry.value() instanceof Node.Scalar(var place, String type, boolean plain)) {
            if (!TYPES.contains(type)) {
                named.unfit(
                        entry.key(),
                        "cannot be '" + type + "'." + Nearest.hint(type, TYPES),
                        "Use one of: " + String.join(", ", TYPES) + ".");
                return Optional.empty();
            }
            return Optional.of(new PromiseRule.PromisedField(entry.key(), entry.place(), labelled(type), false));
        }
        return MappingReader.open(entry.value(), "a promised field", findings, FIELD_KEYS)
                .flatMap(keys -> Optional.ofNullable(keys.required("type", "Add 'type: string' or another type."))
                        .map(absent -> keys.oneOf("type", ParameterType.class, ParameterType.STRING))
                        .map(type -> new PromiseRule.PromisedField(
                                entry.key(), entry.place(), type, keys.flag("nullable"))));
    }

    private static ParameterType labelled(String label) {
        return ParameterType.values()[TYPES.indexOf(label)];
    }
}
