package tidybridge.service.release;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.UsedNames;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.finding.Findings;
import tidybridge.core.sql.Dialect;

/** What each operation of a module names in its statements. */
final class OperationNames {

    private final Map<String, Set<String>> byOperation = new LinkedHashMap<>();

    private OperationNames() {}

    /**
     * Reads the statements of a module.
     *
     * @param schema the source's own
     */
    static OperationNames of(ModuleText text, String schema) {
        OperationNames names = new OperationNames();
        Optional<ModuleDefinition> module = ModuleReader.read(text, new Findings());
        for (RouteDefinition route : module.map(ModuleDefinition::routes).orElse(List.of())) {
            for (OperationDefinition operation : route.operations()) {
                Set<String> all = new HashSet<>();
                operation.steps().forEach(step -> all.addAll(UsedNames.of(step.sql(), Dialect.usual(), schema)));
                names.byOperation.put(OperationDefinition.label(operation.method(), route.path()), all);
            }
        }
        return names;
    }

    /**
     * The operations that name a table, a view or a routine, in the order of the text.
     *
     * @param column that they must name too; null for any
     */
    List<String> naming(String object, @Nullable String column) {
        List<String> naming = new ArrayList<>();
        byOperation.forEach((operation, names) -> {
            boolean isRead = column == null || names.contains("*") || names.contains(column.toLowerCase(Locale.ROOT));
            if (isRead && names.contains(object.toLowerCase(Locale.ROOT))) {
                naming.add(operation);
            }
        });
        return naming;
    }
}
