package tidybridge.core.condition;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ConditionRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.problem.InputError;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;

/**
 * What callers of one operation are told of the database's conditions: what its definition maps, and for the rest a sentence that names
 * nothing of the database's. Immutable and thread-safe.
 */
public final class Conditions {

    private final Map<String, RefusalRule> rules = new HashMap<>();
    private final Map<String, ParameterDefinition> parameters = new HashMap<>();

    private final String module;
    private final List<RefusalRule> told;
    private final Set<ConditionKind> ownersFault;

    /**
     * Compiles the rules of an operation that writes what its callers send.
     *
     * @param module {@code moorings/v1}
     * @param rules the first of those that match the same thing counts
     * @param parameters those a rule can blame
     */
    public static Conditions ofChange(String module, List<ConditionRule> rules, List<ParameterDefinition> parameters) {
        return new Conditions(module, rules, rules, parameters, Set.of());
    }

    /** The same for a read: a value that it cannot compute or convert is its owner's mistake. */
    public static Conditions ofRead(String module, List<ConditionRule> rules, List<ParameterDefinition> parameters) {
        return new Conditions(
                module,
                rules,
                // what is written for the changes of a module is met by no read, unless it says so itself
                rules.stream().filter(rule -> !rule.inherited()).toList(),
                parameters,
                Set.of(ConditionKind.TOO_LONG, ConditionKind.OUT_OF_RANGE, ConditionKind.WRONG_FORM));
    }

    private Conditions(
            String module,
            List<ConditionRule> rules,
            List<ConditionRule> told,
            List<ParameterDefinition> parameters,
            Set<ConditionKind> ownersFault) {
        this.module = module;
        this.ownersFault = ownersFault;
        this.told = told.stream()
                .filter(rule -> first(rule, rules))
                .map(ConditionRule::refusal)
                .toList();
        rules.forEach(rule -> this.rules.putIfAbsent(rule.match().toLowerCase(Locale.ROOT), rule.refusal()));
        parameters.forEach(parameter -> this.parameters.put(parameter.name(), parameter));
    }

    private static boolean first(ConditionRule rule, List<ConditionRule> rules) {
        return rules.stream()
                .filter(other -> other.match().equalsIgnoreCase(rule.match()))
                .findFirst()
                .filter(rule::equals)
                .isPresent();
    }

    /** What a caller is told; by the constraint's name first, then the number, then the SQLSTATE. */
    public Problem problem(Condition condition) {
        RefusalRule rule = rule(condition);
        ConditionKind kind = ownersFault.contains(condition.kind()) ? ConditionKind.OTHER : condition.kind();
        boolean signalled =
                kind == ConditionKind.SIGNALLED && !condition.words().isBlank();
        String usual = signalled ? condition.words() : kind.message();
        return rule == null ? Problem.of(kind.problem(), usual) : refusal(rule, rule.message(), usual);
    }

    /**
     * What a caller is told of a refusal.
     *
     * @param message its own sentence; null for none
     * @param usual told when it has none
     */
    public Problem refusal(RefusalRule rule, @Nullable String message, String usual) {
        String detail = message == null ? usual : message;
        ParameterDefinition blamed = rule.field() == null ? null : parameters.get(rule.field());
        List<InputError> errors = blamed == null
                ? List.of()
                : List.of(new InputError(blamed.wireName(), blamed.in().name().toLowerCase(Locale.ROOT), detail));
        return new Problem(ProblemKind.ofRefusal(rule.status()), rule.status(), rule.code(), module, detail, errors);
    }

    /** The rules that callers of the operation can meet, in the order of the text. */
    public List<RefusalRule> refusals() {
        return told;
    }

    /** The module whose rules they are, {@code moorings/v1}. */
    public String module() {
        return module;
    }

    private @Nullable RefusalRule rule(Condition condition) {
        String name = condition.name();
        RefusalRule rule = name == null ? null : rules.get(name.toLowerCase(Locale.ROOT));
        if (rule == null && condition.number() != 0) {
            rule = rules.get(String.valueOf(condition.number()));
        }
        String state = condition.sqlState();
        return rule == null && state != null ? rules.get(state.toLowerCase(Locale.ROOT)) : rule;
    }
}
