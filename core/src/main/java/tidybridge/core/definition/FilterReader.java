package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Node;

/** Reads {@code filter: [basin, length_m: [gte, lte]]}. */
final class FilterReader {

    private static final List<String> OPERATORS =
            Arrays.stream(FilterOperator.values()).map(FilterOperator::label).toList();

    private final Findings findings;

    FilterReader(Findings findings) {
        this.findings = findings;
    }

    List<FilterRule> read(MappingReader keys) {
        Node node = keys.node("filter");
        return node == null ? List.of() : rules(node);
    }

    private List<FilterRule> rules(Node node) {
        return switch (node) {
            case Node.Scalar scalar -> List.of(new FilterRule(scalar.text(), List.of(), scalar.place()));
            case Node.Sequence sequence ->
                sequence.items().stream().flatMap(item -> rules(item).stream()).toList();
            case Node.Mapping mapping ->
                mapping.entries().stream().map(this::rule).toList();
        };
    }

    private FilterRule rule(Node.Entry entry) {
        List<Node> items = entry.value() instanceof Node.Sequence sequence ? sequence.items() : List.of(entry.value());
        List<FilterOperator> operators = new ArrayList<>();
        for (Node item : items) {
            FilterOperator operator = operator(item);
            if (operator != null && !operators.contains(operator)) {
                operators.add(operator);
            }
        }
        return new FilterRule(entry.key(), operators, entry.place());
    }

    private @Nullable FilterOperator operator(Node node) {
        String label = node instanceof Node.Scalar scalar ? scalar.text() : "";
        // a plain 'null' is an operator too
        FilterOperator operator = FilterOperator.named(label).orElse(null);
        if (operator == null) {
            findings.add(
                    Code.VALUE_UNFIT,
                    node.place(),
                    "A filter has no operator '" + label + "'." + Nearest.hint(label, OPERATORS),
                    "Use some of: " + String.join(", ", OPERATORS) + ".");
        }
        return operator;
    }
}
