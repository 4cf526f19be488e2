package tidybridge.core.plan;

import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import tidybridge.core.route.PathTemplate;

/**
 * What the operations of a module are called in its reference, and by that in client code made from it: what the text says, or a name made
 * of method and path. No two are the same, not even but for upper and lower case. Immutable and thread-safe.
 */
public final class OperationIds {

    private final Map<String, String> byLabel;

    private OperationIds(Map<String, String> byLabel) {
        this.byLabel = byLabel;
    }

    /**
     * Names the operations of a module. Where two would be called the same, the one with more placeholders keeps the plain name, then the
     * first by its path; the order in the text does not matter.
     */
    public static OperationIds of(ModulePlan module) {
        List<OperationPlan> operations = module.routes().stream()
                .flatMap(route -> route.operations().stream())
                .toList();
        Map<String, String> found = new HashMap<>();
        Set<String> taken = new HashSet<>();
        for (OperationPlan operation : operations) {
            String said = operation.header().id();
            if (said != null) {
                found.put(operation.label(), said);
                taken.add(lower(said));
            }
        }
        Map<String, List<OperationPlan>> alike = operations.stream()
                .filter(operation -> operation.header().id() == null)
                .collect(Collectors.groupingBy(OperationIds::plain, TreeMap::new, Collectors.toList()));
        alike.forEach((plain, same) -> same.stream()
                .sorted(Comparator.comparing((OperationPlan operation) ->
                                -operation.path().placeholders().size())
                        .thenComparing(OperationPlan::label))
                .forEach(operation -> found.put(operation.label(), free(plain, taken))));
        Map<String, String> ordered = new LinkedHashMap<>();
        operations.forEach(operation -> ordered.put(operation.label(), found.getOrDefault(operation.label(), "")));
        return new OperationIds(ordered);
    }

    private static String free(String plain, Set<String> taken) {
        String id = plain;
        for (int number = 2; !taken.add(lower(id)); number++) {
            id = plain + number;
        }
        return id;
    }

    private static String lower(String id) {
        return id.toLowerCase(Locale.ROOT);
    }

    /** By {@code moorings/v1 GET /berths}, in the order of the text. */
    public Map<String, String> byLabel() {
        return byLabel;
    }

    /** What one of them is called. */
    public String of(OperationPlan operation) {
        return byLabel.getOrDefault(operation.label(), plain(operation));
    }

    /** {@code GET /berths/{berthId}} becomes {@code getBerthsByBerthId}. */
    private static String plain(OperationPlan plan) {
        StringBuilder id = new StringBuilder(plan.method().name().toLowerCase(Locale.ROOT));
        for (PathTemplate.Segment segment : plan.path().segments()) {
            id.append(segment.placeholder() ? "By" : "");
            for (String word : segment.text().split("[^A-Za-z0-9]+")) {
                if (!word.isEmpty()) {
                    id.append(Character.toUpperCase(word.charAt(0))).append(word, 1, word.length());
                }
            }
        }
        return id.toString();
    }
}
