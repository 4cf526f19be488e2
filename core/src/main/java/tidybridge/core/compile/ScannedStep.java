package tidybridge.core.compile;

import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.definition.StepDefinition.With;
import tidybridge.core.sql.Bind;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;

/** A step with its statement as it was read. */
record ScannedStep(StepDefinition step, Statement statement) {

    /** What bind parameters are called elsewhere. */
    Map<String, String> aliases() {
        return step.with().stream().collect(Collectors.toMap(With::bind, With::from, (one, other) -> one));
    }

    /** The names that a request's values or earlier steps must know, aliases resolved. */
    String resolved(String bind) {
        return aliases().getOrDefault(bind, bind);
    }

    /** The names its statement uses, those it waits for among them. */
    Set<String> names() {
        Set<String> names = statement.binds().stream().map(Bind::name).collect(Collectors.toSet());
        statement.whens().forEach(when -> names.addAll(when.names()));
        return names;
    }

    /**
     * The indexes of the names its statement uses.
     *
     * @param known indexes of parameters, and of {@code step.field}; what is not among them is left out
     */
    Map<String, Integer> indexes(Map<String, Integer> known) {
        Map<String, Integer> indexes = new HashMap<>();
        for (String name : names()) {
            Integer index = known.get(resolved(name));
            if (index != null) {
                indexes.put(name, index);
            }
        }
        return indexes;
    }

    boolean isCall() {
        return statement.kind() == StatementKind.CALL;
    }
}
