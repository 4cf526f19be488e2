package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.ValueReader;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.condition.Conditions;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.OrderKey;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;

/** Compiles one operation: first what the text alone tells, then what the source says about the statement. */
final class OperationCompiler {

    /** A page beyond this many rows is an export, which is fine when somebody wants one. */
    private static final int LARGE_PAGE = 10_000;

    private final ModuleDefinition module;
    private final PathTemplate path;
    private final OperationDefinition operation;
    private final Catalog catalog;
    private final Findings findings;
    private final Compiler.Forms forms;

    OperationCompiler(
            ModuleDefinition module,
            PathTemplate path,
            OperationDefinition operation,
            Catalog catalog,
            Findings findings,
            Compiler.Forms forms) {
        this.forms = forms;
        this.module = module;
        this.path = path;
        this.operation = operation;
        this.catalog = catalog;
        this.findings = findings;
    }

    /** The plan, or null when an error was found or nobody could be asked. */
    @Nullable
    OperationPlan compile() {
        int before = findings.errors();
        checkDescription();
        List<ScannedStep> steps = steps();
        new ParameterCheck(path, operation, steps, findings).check();
        checkPage();
        if (!steps.isEmpty()) {
            new ChangeCheck(operation, steps, findings).check();
        }
        if (steps.isEmpty() || findings.errors() > before) {
            return null;
        }
        return ChangeCompiler.isNeeded(operation, steps)
                ? change(steps)
                : plan(steps.getFirst().statement());
    }

    /** Each step with its statement; none, with a finding, when one of them cannot be read. */
    private List<ScannedStep> steps() {
        List<ScannedStep> steps = new ArrayList<>();
        for (StepDefinition step : operation.steps()) {
            Statement statement = new StatementCheck(operation, step, findings).scan();
            if (statement != null) {
                steps.add(new ScannedStep(step, statement));
            }
        }
        return steps.size() == operation.steps().size() ? steps : List.of();
    }

    private void checkDescription() {
        if (operation.about() == null) {
            findings.add(
                    Code.ABOUT_MISSING,
                    operation.place(),
                    "The operation says nothing about itself.",
                    "Add 'about: ...', a sentence for the reference.");
        }
        Deprecation deprecated = operation.deprecated();
        if (deprecated != null && deprecated.ends() == null) {
            findings.add(
                    Code.DEPRECATED_UNDATED,
                    operation.place(),
                    "The operation is deprecated, and callers are not told until when it works.",
                    "Write the day it ends, as 'deprecated: 2031-12-31'.");
        }
    }

    private void checkPage() {
        if (operation.answer().kind() == AnswerKind.ROWS && operation.order().isEmpty()) {
            findings.add(
                    Code.ORDER_MISSING,
                    operation.place(),
                    "A collection needs an order to be continued by.",
                    "Add 'order: [field, ...]' with fields that together are unique, such as a name and the key.");
        }
        PageRule page = operation.page();
        if (page != null && page.most() > LARGE_PAGE) {
            findings.add(
                    Code.RESULT_UNBOUNDED,
                    operation.place(),
                    "A caller may ask for " + page.most() + " rows at once.",
                    "Lower 'page: { most: ... }', or accept this with the reason.");
        }
    }

    private @Nullable OperationPlan plan(Statement statement) {
        String label = label();
        StatementPlan plain = statementPlan(statement, label, null);
        List<Field> columns = describe(statement, plain);
        if (columns == null) {
            return null;
        }
        int before = findings.errors();
        if (columns.isEmpty()) {
            refused(statement, "it returns no rows");
            return null;
        }
        AnswerCompiler answer = new AnswerCompiler(operation, columns, findings);
        List<ShapedField> fields = answer.compile();
        FilePlan file = answer.file();
        ReplyPlan reply = new ReplyCompiler(operation, columns, findings)
                .compile(StatementPlan.indexes(operation.parameters()), fields);
        PageOrder order = operation.answer().kind() == AnswerKind.ROWS ? order(columns) : null;
        if (findings.errors() > before) {
            return null;
        }
        StatementPlan paged = order == null ? plain : statementPlan(statement, label, order);
        if (forms == Compiler.Forms.EVERY_KIND) {
            if (!prepares(statement, paged, order != null)) {
                return null;
            }
            catalog.contents()
                    .ifPresent(contents ->
                            new CatalogCheck(operation, statement, catalog, contents, findings).check(paged));
        }
        return plan(label, paged, fields, file, order, reply, null);
    }

    private String label() {
        return module.name() + "/v" + module.version().major() + " "
                + OperationDefinition.label(operation.method(), path.text());
    }

    private @Nullable OperationPlan change(List<ScannedStep> steps) {
        ChangeCompiler compiler = new ChangeCompiler(operation, steps, label(), catalog, findings, forms);
        ChangePlan change = compiler.compile();
        if (change == null) {
            return null;
        }
        int before = findings.errors();
        List<Field> columns = change.main().columns();
        List<ShapedField> fields = new AnswerCompiler(operation, columns, findings).compile();
        ReplyPlan reply = new ReplyCompiler(operation, columns, findings).compile(compiler.values(), fields);
        if (findings.errors() > before) {
            return null;
        }
        if (forms == Compiler.Forms.EVERY_KIND) {
            for (int i = 0; i < steps.size(); i++) {
                StatementPlan plan = change.steps().get(i).statement();
                Statement statement = steps.get(i).statement();
                if (!prepares(statement, plan, false)) {
                    return null;
                }
                catalog.contents()
                        .ifPresent(contents ->
                                new CatalogCheck(operation, statement, catalog, contents, findings).checkChange(plan));
            }
        }
        return plan(label(), change.main().statement(), fields, null, null, reply, change);
    }

    private OperationPlan plan(
            String label,
            StatementPlan statement,
            List<ShapedField> fields,
            @Nullable FilePlan file,
            @Nullable PageOrder order,
            ReplyPlan reply,
            @Nullable ChangePlan change) {
        try {
            Set<String> own = operation.page() != null
                    ? Set.of(Binder.LIMIT, Binder.AFTER)
                    : change != null && change.preview() != null ? Set.of(Binder.PREVIEW) : Set.of();
            Binder binder = new Binder(operation.parameters(), path.placeholders(), operation.page(), own);
            String scope = order == null ? label : label + " " + order.label();
            return new OperationPlan(
                    label,
                    operation.method(),
                    path,
                    operation.about(),
                    operation.answer().kind(),
                    operation.sql().file(),
                    operation.sql().text(),
                    operation.parameters(),
                    binder,
                    statement,
                    fields,
                    file,
                    order,
                    operation.page(),
                    scope,
                    operation.timeout(),
                    reply,
                    change == null
                            ? Conditions.ofRead(operation.change().conditions(), operation.parameters())
                            : Conditions.ofChange(operation.change().conditions(), operation.parameters()),
                    change,
                    operation.deprecated());
        } catch (ValueReader.Unfit e) {
            throw new IllegalStateException("defaults were checked before", e);
        }
    }

    private StatementPlan statementPlan(Statement statement, String label, @Nullable PageOrder order) {
        return new StatementPlan(
                statement, label, operation.parameters(), order, sql -> catalog.bounded(sql, operation.timeout()));
    }

    /** The columns of an answer, or null with a finding, or null without one when nobody was asked. */
    private @Nullable List<Field> describe(Statement statement, StatementPlan plain) {
        return switch (catalog.describe(plain.plain())) {
            case Described.Fields(List<Field> fields) -> fields;
            case Described.Refused(String reason) -> {
                refused(statement, reason);
                yield null;
            }
            case Described.Unknown() -> null;
        };
    }

    private void refused(Statement statement, String reason) {
        findings.add(
                Code.STATEMENT_REFUSED,
                RefusalPlace.of(statement, reason)
                        .orElse(Place.of(operation.sql().file())),
                "The source '" + module.source() + "' cannot prepare the statement: " + reason + ".",
                "Mend it here, or run the file in an SQL client against the same schema.");
    }

    private @Nullable PageOrder order(List<Field> columns) {
        int before = findings.errors();
        List<String> names = columns.stream().map(Field::name).toList();
        List<PageOrder.Key> keys = new ArrayList<>();
        for (OrderKey key : operation.order()) {
            int index = names.indexOf(key.field());
            if (index < 0) {
                findings.add(
                        Code.ORDER_UNKNOWN,
                        key.place(),
                        "The answer has no field '" + key.field() + "' to order by." + Nearest.hint(key.field(), names),
                        "Use one of: " + String.join(", ", names) + ".");
                continue;
            }
            Field column = columns.get(index);
            checkOrderField(key, column);
            keys.add(new PageOrder.Key(column.name(), index, column.type(), key.descending()));
        }
        return keys.isEmpty() || findings.errors() > before ? null : new PageOrder(keys);
    }

    private void checkOrderField(OrderKey key, Field field) {
        if (field.nullable()) {
            findings.add(
                    Code.ORDER_NULLABLE,
                    key.place(),
                    "The field '" + field.name() + "' may be null, and a page cannot be continued after null.",
                    "Order by a field that is never null, or wrap it with coalesce() in the statement.");
        }
        if (!field.type().fitsOrder()) {
            findings.add(
                    Code.ORDER_UNFIT,
                    key.place(),
                    "The field '" + field.name() + "' is of a type that a page cannot be continued after.",
                    "Order by a text, a date, a whole number or an exact decimal.");
        }
    }

    private boolean prepares(Statement statement, StatementPlan plan, boolean paged) {
        List<Variant> samples = new ArrayList<>(plan.samples(Start.BEGINNING));
        if (paged) {
            samples.addAll(plan.samples(Start.AFTER_CHANGE));
            samples.addAll(plan.samples(Start.AFTER_TIES));
        }
        for (Variant sample : samples) {
            if (catalog.describe(sample.sql()) instanceof Described.Refused(String reason)) {
                refused(statement, reason);
                return false;
            }
        }
        return true;
    }
}
