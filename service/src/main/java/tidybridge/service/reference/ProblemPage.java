package tidybridge.service.reference;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.contract.RefusalTerms;
import tidybridge.core.problem.InputError;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sample.JsonLines;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.ReferenceFiles;

/**
 * What the {@code type} of a problem leads to.
 *
 * @param example a document of this kind
 * @param rules of modules that refuse with it
 */
public record ProblemPage(ProblemKind kind, String example, List<Rule> rules) {

    private static final String SOME_REQUEST = "4bf92f3577b34da6a3ce929d0e0e4736";

    public ProblemPage {
        rules = List.copyOf(rules);
    }

    /**
     * A rule of a module.
     *
     * @param anchor what the {@code type} of its problems ends with, {@code moorings/v1/ended}
     * @param module {@code moorings/v1}
     * @param operations that refuse with it, {@link #MOST_OPERATIONS} at most
     * @param more how many others do
     */
    public record Rule(
            String anchor, String module, String code, String message, List<OperationTerms> operations, int more) {
        public Rule {
            operations = List.copyOf(operations);
        }
    }

    /** How many rules are told; the references tell them all. */
    static final int MOST_RULES = 200;

    /** How many operations are told of one rule. */
    static final int MOST_OPERATIONS = 5;

    /** What modules refuse with a kind of problem by themselves. */
    static List<Rule> rules(ProblemKind kind, List<LiveModule> modules) {
        Map<String, Collected> collected = new LinkedHashMap<>();
        for (LiveModule module : modules) {
            ReferenceFiles reference = module.reference();
            if (reference != null) {
                for (OperationTerms operation : reference.text().contract().operations()) {
                    collect(kind, module.identity(), operation, collected);
                }
            }
        }
        List<Rule> rules = new ArrayList<>();
        collected.forEach((anchor, rule) -> rules.add(rule.rule(anchor)));
        return rules;
    }

    /** The page of a kind. */
    static ProblemPage of(ProblemKind kind, List<Rule> rules) {
        Problem example = kind == ProblemKind.BAD_INPUT
                ? Problem.badInput(List.of(new InputError("from", "query", "must be a date such as 2031-05-01")))
                : Problem.of(kind, kind.meaning());
        String json = new String(example.json(SOME_REQUEST), StandardCharsets.UTF_8);
        return new ProblemPage(kind, JsonLines.of(json), rules);
    }

    /** A rule, and where it was met so far. */
    private record Collected(String module, String code, String message, List<OperationTerms> operations) {

        Rule rule(String anchor) {
            int told = Math.min(MOST_OPERATIONS, operations.size());
            return new Rule(anchor, module, code, message, operations.subList(0, told), operations.size() - told);
        }
    }

    private static void collect(
            ProblemKind kind, String module, OperationTerms operation, Map<String, Collected> collected) {
        for (RefusalTerms refusal : operation.refusals()) {
            String anchor = module + "/" + refusal.code();
            boolean told = collected.containsKey(anchor) || collected.size() < MOST_RULES;
            if (told && ProblemKind.ofRefusal(refusal.status()) == kind) {
                String message = refusal.message() == null ? kind.meaning() : refusal.message();
                collected
                        .computeIfAbsent(
                                anchor, key -> new Collected(module, refusal.code(), message, new ArrayList<>()))
                        .operations()
                        .add(operation);
            }
        }
    }
}
