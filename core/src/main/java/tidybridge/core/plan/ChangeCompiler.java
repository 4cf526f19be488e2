package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.catalog.Relation;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Need;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.RefusalRule;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.definition.StepDefinition.ChangeLimit;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.StepPlan.CallPlan;
import tidybridge.core.plan.StepPlan.Saved;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;

/** Compiles the steps of an operation in their order: each knows the columns of those before it. */
final class ChangeCompiler {

    private final OperationDefinition operation;
    private final List<ScannedStep> steps;
    private final String label;
    private final Catalog catalog;
    private final Findings findings;
    private final Compiler.Forms forms;
    private final UnaryOperator<String> bounded;

    /** Indexes of values by name: parameters first, then {@code step.field} as they are used. */
    private final Map<String, Integer> values;

    private final Map<String, List<Field>> columnsOfSteps = new LinkedHashMap<>();
    private final Map<String, List<Saved>> saved = new LinkedHashMap<>();

    ChangeCompiler(
            OperationDefinition operation,
            List<ScannedStep> steps,
            String label,
            Catalog catalog,
            Findings findings,
            Compiler.Forms forms) {
        this.forms = forms;
        this.operation = operation;
        this.steps = steps;
        this.label = label;
        this.catalog = catalog;
        this.findings = findings;
        this.bounded = sql -> catalog.bounded(sql, operation.timeout());
        this.values = new LinkedHashMap<>(StatementPlan.indexes(operation.parameters()));
    }

    /** True for an operation that needs more than one query. */
    static boolean isNeeded(OperationDefinition operation, List<ScannedStep> steps) {
        return steps.size() > 1
                || steps.getFirst().statement().kind() != StatementKind.QUERY
                || steps.getFirst().step().expect() != StepDefinition.Expect.ANYTHING;
    }

    /** Indexes of every value a run has, by name; complete once the steps are compiled. */
    Map<String, Integer> values() {
        return values;
    }

    /** The plan; null, with a finding, when something does not fit, and without one when nobody could be asked. */
    @Nullable
    ChangePlan compile() {
        int before = findings.errors();
        if (forms == Compiler.Forms.EVERY_KIND) {
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
        }
        List<StepPlan> complete = plans.stream().map(this::withSaved).toList();
        StatementPlan preview = operation.change().preview()
                ? complete.getFirst().statement().rows("count(*)").orElse(null)
                : null;
        Need precondition = operation.change().precondition();
        return findings.errors() > before
                ? null
                : new ChangePlan(
                        complete,
                        operation.answeredBy(),
                        values.size(),
                        operation.method().isSafe(),
                        operation.change().isolation(),
                        operation.change().batch(),
                        operation.change().idempotencyKey(),
                        preview,
                        precondition == null ? Need.OPTIONAL : precondition,
                        null);
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
        StatementPlan plan =
                new StatementPlan(statement, label, operation.parameters(), scanned.indexes(values), bounded);
        List<Field> columns = columns(scanned, plan, call);
        if (columns == null) {
            return null;
        }
        columnsOfSteps.put(scanned.step().name(), columns);
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
                message == null ? null : Template.of(message, names, Map.of()),
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
                    case QUERY, INSERT, REPLACE, CALL, SET, DDL, SESSION, SCRIPT, UNKNOWN -> ChangeLimit.ANY;
                };
    }

    private @Nullable CallPlan call(ScannedStep scanned) {
        Contents contents = catalog.contents().orElse(null);
        return contents == null ? null : new CallCompiler(operation, scanned, contents, values, findings).compile();
    }

    private @Nullable List<Field> columns(ScannedStep scanned, StatementPlan plan, @Nullable CallPlan call) {
        Statement statement = scanned.statement();
        String asked =
                statement.returned().filter(sql -> statement.returnsRows()).orElseGet(plan::plain);
        List<Field> described = switch (catalog.describe(asked)) {
            case Described.Fields(List<Field> fields) -> fields;
            case Described.Refused(String reason) -> {
                refused(scanned, reason);
                yield null;
            }
            case Described.Unknown() -> null;
        };
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
            case QUERY, SET, DDL, SESSION, SCRIPT, UNKNOWN -> described;
        };
    }

    private void refused(ScannedStep scanned, String reason) {
        findings.add(
                Code.STATEMENT_REFUSED,
                RefusalPlace.of(scanned.statement(), reason)
                        .orElse(Place.of(scanned.step().sql().file())),
                "The source cannot prepare the statement: " + reason + ".",
                "Mend it here, or run the file in an SQL client against the same schema.");
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
        return new StepPlan(
                plan.name(),
                plan.kind(),
                plan.statement(),
                plan.columns(),
                plan.returnsRows(),
                plan.limit(),
                plan.replaces(),
                plan.expect(),
                plan.otherwise(),
                plan.message(),
                saved.getOrDefault(plan.name(), List.of()),
                plan.call());
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
