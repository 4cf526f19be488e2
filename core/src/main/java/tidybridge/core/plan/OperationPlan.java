package tidybridge.core.plan;

import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Binder;
import tidybridge.core.condition.Conditions;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.route.PathTemplate;

/**
 * An operation as requests read it. Immutable and thread-safe.
 *
 * @param label {@code moorings/v1 GET /berths}, unique among everything live of one version
 * @param path inside the module
 * @param sqlFile the statement's file inside the module's folder
 * @param sql the statement as written
 * @param fields of a row of the answer as callers see it, in order
 * @param file where the answer's file is; null for every other answer
 * @param order null when the answer is no collection
 * @param page null when the answer is no collection
 * @param scope what a continuation is sealed for
 * @param reply what is said beside the body
 * @param conditions what callers are told of the database's conditions
 * @param change the statements of an operation that is more than one query; null for a read
 * @param deprecated null while callers may use it
 */
public record OperationPlan(
        String label,
        Method method,
        PathTemplate path,
        @Nullable String about,
        AnswerKind answer,
        String sqlFile,
        String sql,
        List<ParameterDefinition> parameters,
        Binder binder,
        StatementPlan statement,
        List<ShapedField> fields,
        @Nullable FilePlan file,
        @Nullable PageOrder order,
        @Nullable PageRule page,
        String scope,
        Duration timeout,
        ReplyPlan reply,
        Conditions conditions,
        @Nullable ChangePlan change,
        @Nullable Deprecation deprecated) {
    public OperationPlan {
        parameters = List.copyOf(parameters);
        fields = List.copyOf(fields);
    }

    /** The same, with the read of its route, whose entity tag it compares. */
    OperationPlan guardedBy(OperationPlan read) {
        return new OperationPlan(
                label,
                method,
                path,
                about,
                answer,
                sqlFile,
                sql,
                parameters,
                binder,
                statement,
                fields,
                file,
                order,
                page,
                scope,
                timeout,
                reply,
                conditions,
                change == null ? null : change.guardedBy(read),
                deprecated);
    }
}
