package tidybridge.core.plan;

import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Needs;
import tidybridge.core.access.Quota;
import tidybridge.core.bind.Binder;
import tidybridge.core.condition.Conditions;
import tidybridge.core.definition.Assistants;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.route.PathTemplate;

/**
 * What every operation has, whatever it answers with. Immutable and thread-safe.
 *
 * @param module {@code moorings/v1}, the identity of its module
 * @param label {@code moorings/v1 GET /berths}, unique among everything live of one version
 * @param needs what it asks of its caller
 * @param quota how often it may be called; null for as often as its module lets
 * @param id what the reference calls it; null where the text does not say
 * @param path inside the module
 * @param sqlFile the file, inside the module's folder, of the statement that answers
 * @param sql that statement as written
 * @param timeout for each statement
 * @param conditions what callers are told of the database's conditions
 * @param assistants whether it is a tool for assistants; null where the text says nothing
 * @param deprecated null while callers may use it
 */
public record OperationHeader(
        String module,
        String label,
        Needs needs,
        @Nullable Quota quota,
        @Nullable String id,
        Method method,
        PathTemplate path,
        @Nullable String about,
        String sqlFile,
        String sql,
        List<ParameterDefinition> parameters,
        Binder binder,
        Duration timeout,
        Conditions conditions,
        @Nullable Assistants assistants,
        @Nullable Deprecation deprecated) {
    public OperationHeader {
        parameters = List.copyOf(parameters);
    }
}
