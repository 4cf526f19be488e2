package tidybridge.core.drafting;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ForeignKey;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.text.Written;

/** What callers are told when a constraint of a table refuses what they sent. */
final class Refusals {

    private final Relation relation;
    private final UnaryOperator<String> names;

    /**
     * Prepares them.
     *
     * @param names the parameter of each column
     */
    Refusals(Relation relation, UnaryOperator<String> names) {
        this.relation = relation;
        this.names = names;
    }

    /**
     * Adds the conditions of an operation.
     *
     * @param given the columns that callers send
     */
    void put(Written.Collector operation, List<Column> given) {
        Written.Collector conditions = new Written.Collector();
        for (ForeignKey foreign : relation.foreignKeys()) {
            parameterOf(foreign.columns(), given)
                    .ifPresent(field -> conditions.put(
                            foreign.name(),
                            refusal(
                                    422,
                                    "There is no row of " + foreign.target() + " with this " + list(foreign.columns())
                                            + ".",
                                    field)));
        }
        for (Index index : relation.indexes()) {
            if (index.unique()) {
                parameterOf(index.columns(), given)
                        .ifPresent(field -> conditions.put(
                                index.name(),
                                refusal(
                                        409,
                                        "There is a row of " + relation.name() + " with this " + list(index.columns())
                                                + " already.",
                                        field)));
            }
        }
        for (Relation.Check check : relation.checks()) {
            List<String> named = given.stream()
                    .map(Column::name)
                    .filter(name -> check.condition().contains("`" + name + "`"))
                    .toList();
            boolean ofJson = check.condition().toLowerCase(Locale.ROOT).contains("json_valid(");
            if (!named.isEmpty() && !ofJson) {
                conditions.put(
                        check.name(),
                        refusal(
                                422,
                                "It must be so that " + check.condition().replace("`", "") + ".",
                                names.apply(named.getFirst())));
            }
        }
        if (!conditions.isEmpty()) {
            operation.put("conditions", conditions.keys());
        }
    }

    private static String list(List<String> columns) {
        return String.join(" and ", columns);
    }

    /** The parameter to blame: the first of some columns that callers give. */
    private Optional<String> parameterOf(List<String> some, List<Column> given) {
        return given.stream()
                .map(Column::name)
                .filter(name -> some.stream().anyMatch(name::equalsIgnoreCase))
                .map(names)
                .findFirst();
    }

    private static Written refusal(int status, String message, @Nullable String field) {
        Written.Collector refusal =
                new Written.Collector().put("status", Written.typed(status)).put("message", message);
        return (field == null ? refusal : refusal.put("field", field)).keys();
    }
}
