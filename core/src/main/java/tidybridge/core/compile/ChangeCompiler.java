package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Askable;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.catalog.Relation;
import tidybridge.core.condition.Conditions;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.ChangeRules;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.definition.StepDefinition.ChangeLimit;
import tidybridge.core.definition.TransactionOwner;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.infer.BoundKinds;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.ChangeReply;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.StepPlan;
import tidybridge.core.plan.StepPlan.CallPlan;
import tidybridge.core.plan.StepPlan.Saved;
import tidybridge.core.plan.StepSequence;
import tidybridge.core.plan.Template;
import tidybridge.core.sql.Renderer;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.sql.ValueKind;
import tidybridge.core.text.Nearest;

/** Compiles the steps of an operation in their order: each knows the columns of those before it. */
final class ChangeCompiler {

    private final OperationScope scope;
    private final OperationDefinition operation;
    private final List<ScannedStep> steps;
    private final Catalog catalog;
    private final Findings findings;
    private final @Nullable RowPlan guard;

    /** Indexes of values by name: parameters first, then {@code step.field} as they are used. */
    private final Map<String, Integer> values;

    private final Map<String, List<Saved>> saved = new LinkedHashMap<>();

    /** The columns of the steps compiled so far. */
    private final Map<String, List<Field>> earlier = new HashMap<>();

    /**
     * Prepares to compile a change.
     *
     * @param guard the read of its route that tells states apart; null for none
     */
    ChangeCompiler(OperationScope scope, List<ScannedStep> steps, @Nullable RowPlan guard) {
        this.scope = scope;
        this.operation = scope.operation();
        this.steps = steps;
        this.catalog = scope.catalog();
        this.findings = scope.findings();
        boolean own = operation.change().transaction() == TransactionOwner.ROUTINE;
        this.guard = operation.method().isSafe() || own ? null : guard;
        this.values = new LinkedHashMap<>(StatementPlan.indexes(operation.parameters()));
    }

    /** True for an operation that needs more than one query. */
    static boolean isNeeded(OperationDefinition operation, List<ScannedStep> steps) {
        return steps.size() > 1
                || steps.getFirst().statement().kind() != StatementKind.QUERY
                || steps.getFirst().step().expect() != StepDefinition.Expect.ANYTHING;
    }

    /** The plan; null, with a finding, when something does not fit, and without one when nobody could be asked. */
    @Nullable
    ChangePlan compile() {
        int before = findings.errors();
        if (scope.asksForEveryForm()) {
            checkSource();
        }
        referTo(operation.reply().location());
        List<StepPlan> plans = new ArrayList<>();
        for (ScannedStep step : steps) {
            StepPlan plan = step(step);
            if (plan == null) {
                return null;
            }
            plans.add(plan);
            earlier.put(plan.name(), plan.columns());
        }
        ChangeRules rules = operation.change();
        StepSequence sequence = new StepSequence(
                plans.stream().map(this::withSaved).toList(),
                operation.answeredBy(),
                values.size(),
                operation.method().isSafe(),
                rules.transaction(),
                rules.isolation());
        StatementPlan preview = rules.preview()
                ? sequence.steps().getFirst().statement().rows("count(*)").orElse(null)
                : null;
        if (findings.errors() > before) {
            return null;
        }
        List<Field> columns = sequence.main().columns();
        List<ShapedField> fields = new AnswerCompiler(operation, columns, scope.catalog(), findings).compile();
        ChangeReply reply = new ReplyCompiler(operation, columns, findings).ofChange(values);
        if (findings.errors() > before || scope.asksForEveryForm() && !suits(sequence)) {
            return null;
        }
        return new ChangePlan(
                scope.header(
                        Conditions.ofChange(scope.identity(), rules.conditions(), operation.parameters()),
                        Askable.preview(preview != null)),
                operation.answer().kind(),
                fields,
                reply,
                sequence,
                rules.batch(),
                rules.idempotencyKey(),
                preview,
                rules.precondition() == null ? Need.OPTIONAL : rules.precondition(),
                guard);
    }

    /** Shows every kind of form of each step to the source, and what it would do to the catalog's checks. */
    private boolean suits(StepSequence sequence) {
        for (int i = 0; i < steps.size(); i++) {
            StatementPlan plan = sequence.steps().get(i).statement();
            Statement statement = steps.get(i).statement();
            if (!scope.prepares(statement, plan.samples(null))) {
                return false;
            }
            catalog.contents().ifPresent(contents -> new CatalogCheck(scope, statement, contents).checkChange(plan));
        }
        return true;
    }

    /** A release goes on being served, as far as it only reads, when its source becomes read-only. */
    private void checkSource() {
        if (catalog.isReadOnly() && !operation.method().isSafe()) {
            findings.add(
                    Code.SOURCE_READ_ONLY,
                    operation.place(),
                    "The operation changes data, and its source refuses every change.",
                    "Write 'read-only: false' under the source in workspace.yaml, for a user that may change what it must.");
        }
    }

    private void referTo(@Nullable String template) {
        for (String name : template == null ? List.<String>of() : Template.names(template)) {
            if (name.indexOf('.') >= 0) {
                values.putIfAbsent(name, values.size());
            }
        }
    }

    private @Nullable StepPlan step(ScannedStep scanned) {
        Statement statement = scanned.statement();
        for (String name : scanned.names()) {
            String resolved = scanned.resolved(name);
            if (resolved.indexOf('.') >= 0) {
                values.putIfAbsent(resolved, values.size());
            }
        }
        CallPlan call = scanned.isCall() ? call(scanned) : null;
        if (scanned.isCall() && call == null) {
            return null;
        }
        StatementPlan plan = new StatementPlan(
                statement, scope.label(), operation.parameters(), scanned.indexes(values), scope::bounded);
        List<Field> columns = columns(scanned, plan, call);
        if (columns == null) {
            return null;
        }
        checkUndone(statement);
        RefusalRule otherwise = scanned.step().otherwise();
        String message = otherwise == null ? null : otherwise.message();
        List<String> names = columns.stream().map(Field::name).toList();
        return new StepPlan(
                scanned.step().name(),
                statement.kind(),
                plan,
                columns,
                statement.returnsRows(),
                limit(scanned),
                statement.replacesRows(),
                scanned.step().expect(),
                otherwise,
                message == null ? null : Template.ofMessage(message, names),
                List.of(),
                call);
    }

    /** An UPDATE or DELETE is meant for one row unless the text says otherwise. */
    private static ChangeLimit limit(ScannedStep scanned) {
        ChangeLimit limit = scanned.step().changes();
        return limit != null
                ? limit
                : switch (scanned.statement().kind()) {
                    case UPDATE, DELETE -> ChangeLimit.ONE;
                    case QUERY, INSERT, REPLACE, CALL, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN ->
                        ChangeLimit.ANY;
                };
    }

    private @Nullable CallPlan call(ScannedStep scanned) {
        Contents contents = catalog.contents().orElse(null);
        return contents == null
                ? null
                : new CallCompiler(operation, scanned, contents, values, this::body, findings).compile();
    }

    /** Looked at when a text is checked, and not again for a release. */
    private Optional<String> body(String procedure) {
        return scope.asksForEveryForm() ? catalog.procedureBody(procedure) : Optional.empty();
    }

    private @Nullable List<Field> columns(ScannedStep scanned, StatementPlan plan, @Nullable CallPlan call) {
        Statement statement = scanned.statement();
        Renderer renderer = new Renderer(statement);
        String plain = statement.returnsRows() ? renderer.returned(bind -> null).orElseGet(plan::plain) : plan.plain();
        String sample = switch (statement.kind()) {
            case QUERY -> renderer.sample(bind -> kind(scanned, bind));
            case INSERT, REPLACE, UPDATE, DELETE ->
                renderer.returned(bind -> kind(scanned, bind)).orElse(plain);
            case CALL, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN -> plain;
        };
        List<Field> described = scope.describe(statement, plain, sample);
        if (described == null) {
            return null;
        }
        Field changed = new Field(StepPlan.CHANGED, FieldType.INTEGER, false);
        boolean value = operation.answer().kind() == AnswerKind.VALUE;
        return switch (statement.kind()) {
            case INSERT, REPLACE -> {
                Field key = new Field(StepPlan.KEY, FieldType.INTEGER, true);
                yield statement.returnsRows() ? described : value ? List.of(key) : List.of(changed, key);
            }
            case UPDATE, DELETE -> statement.returnsRows() ? described : List.of(changed);
            case CALL -> {
                List<Field> columns = new ArrayList<>();
                for (StepPlan.Out out : call == null ? List.<StepPlan.Out>of() : call.outs()) {
                    columns.add(new Field(out.name(), out.type(), true));
                }
                if (!value || columns.isEmpty()) {
                    columns.add(changed);
                }
                yield columns;
            }
            case QUERY, SET, DDL, SESSION, INFORMATION, SCRIPT, UNKNOWN -> described;
        };
    }

    /** As what a bind parameter is bound; null for what nothing is known of yet. */
    private @Nullable ValueKind kind(ScannedStep scanned, String bind) {
        String name = scanned.resolved(bind);
        for (ParameterDefinition parameter : operation.parameters()) {
            if (parameter.name().equals(name)) {
                return BoundKinds.of(parameter);
            }
        }
        int dot = name.indexOf('.');
        return dot < 0
                ? null
                : earlier.getOrDefault(name.substring(0, dot), List.of()).stream()
                        .filter(field -> field.name().equals(name.substring(dot + 1)))
                        .map(field -> BoundKinds.of(field.type()))
                        .findFirst()
                        .orElse(null);
    }

    private void checkUndone(Statement statement) {
        String table = statement.target().map(target -> target.table()).orElse(null);
        Relation relation = table == null
                ? null
                : catalog.contents()
                        .flatMap(contents -> contents.relation(table))
                        .orElse(null);
        if (relation != null && relation.kind() == Relation.Kind.TABLE && !relation.transactional()) {
            findings.add(
                    Code.CHANGE_NOT_UNDONE,
                    statement.source().at(0),
                    "The table " + relation.name()
                            + " is kept by an engine that cannot undo a change, so what fails half-way stays.",
                    "Move it to a transactional engine, or accept this with the reason.");
        }
    }

    /** Tells each step what later ones use of its row. */
    private StepPlan withSaved(StepPlan plan) {
        for (Map.Entry<String, Integer> entry : values.entrySet()) {
            int dot = entry.getKey().indexOf('.');
            if (dot >= 0 && entry.getKey().substring(0, dot).equals(plan.name())) {
                save(plan, entry.getKey().substring(dot + 1), entry.getValue());
            }
        }
        return plan.withSaved(saved.getOrDefault(plan.name(), List.of()));
    }

    private void save(StepPlan plan, String field, int value) {
        List<String> names = plan.columns().stream().map(Field::name).toList();
        int column = names.indexOf(field);
        if (column < 0) {
            findings.add(
                    Code.STEP_FIELD_UNKNOWN,
                    operation.place(),
                    "The step '" + plan.name() + "' has no field '" + field + "'." + Nearest.hint(field, names),
                    "Use one of: " + String.join(", ", names) + ".");
            return;
        }
        saved.computeIfAbsent(plan.name(), name -> new ArrayList<>())
                .add(new Saved(column, plan.columns().get(column).type(), value));
    }

    /** The parameters that a reply or a precondition may name. */
    static List<String> names(List<ParameterDefinition> parameters) {
        return parameters.stream().map(ParameterDefinition::name).toList();
    }
}
