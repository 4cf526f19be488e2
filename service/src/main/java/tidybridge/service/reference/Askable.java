package tidybridge.service.reference;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import tidybridge.core.access.Privilege;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.OperationTerms;

/**
 * A privilege that can be asked for.
 *
 * @param opens whether it opens operations; otherwise it shows fields of theirs that are masked for others
 * @param operations some of them, {@code GET /berths}
 * @param more how many there are besides
 */
public record Askable(String privilege, boolean opens, List<String> operations, int more) {

    private static final int MOST_SHOWN = 6;

    public Askable {
        operations = List.copyOf(operations);
    }

    private static void add(Map<String, List<String>> opened, String privilege, String what) {
        if (!Privilege.isOwn(privilege)) {
            opened.computeIfAbsent(privilege, any -> new ArrayList<>()).add(what);
        }
    }

    /** Those of a module: first what opens operations, in the order in which they ask for it. */
    static List<Askable> of(Contract contract) {
        Map<String, List<String>> opened = new LinkedHashMap<>();
        Map<String, List<String>> shown = new LinkedHashMap<>();
        for (OperationTerms terms : contract.operations()) {
            terms.needs().anyOf().forEach(privilege -> add(opened, privilege, terms.label()));
            terms.answer().fields().stream()
                    .flatMap(field -> Stream.ofNullable(field.unless()))
                    .distinct()
                    .forEach(privilege -> add(shown, privilege, terms.label()));
        }
        shown.keySet().removeAll(opened.keySet());
        return Stream.concat(all(opened, true), all(shown, false)).toList();
    }

    private static Stream<Askable> all(Map<String, List<String>> operations, boolean opens) {
        return operations.entrySet().stream()
                .map(entry -> new Askable(
                        entry.getKey(),
                        opens,
                        entry.getValue().stream().limit(MOST_SHOWN).toList(),
                        Math.max(0, entry.getValue().size() - MOST_SHOWN)));
    }

    /** What it is for, in words. */
    public String words() {
        return (opens ? "opens " : "shows whole what is masked in ")
                + String.join(", ", operations)
                + (more == 0 ? "" : " and " + more + " more");
    }
}
