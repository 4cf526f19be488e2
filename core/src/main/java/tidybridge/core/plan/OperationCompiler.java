package tidybridge.core.plan;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.Binder;
import tidybridge.core.bind.ValueReader;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.OrderKey;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.route.PathTemplate;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Place;

/** Compiles one operation: first what the text alone tells, then what the source says about the statement. */
final class OperationCompiler {

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
        if (operation.about() == null) {
            findings.add(
                    Code.ABOUT_MISSING,
                    operation.place(),
                    "The operation says nothing about itself.",
                    "Add 'about: ...', a sentence for the reference.");
        }
        Statement statement = statement();
        new ParameterCheck(path, operation, statement, findings).check();
        if (operation.answer() == AnswerKind.ROWS && operation.order().isEmpty()) {
            findings.add(
                    Code.ORDER_MISSING,
                    operation.place(),
                    "A collection needs an order to be continued by.",
                    "Add 'order: [field, ...]' with fields that together are unique, such as a name and the key.");
        }
        if (statement == null || findings.errors() > before) {
            return null;
        }
        return plan(statement);
    }

    private @Nullable Statement statement() {
        try {
            Statement statement = Statement.scan(operation.sql());
            checkKind(statement);
            return statement;
        } catch (BrokenText e) {
            boolean empty = e.place().line() == 0;
            findings.add(
                    empty ? Code.STATEMENT_EMPTY : Code.STATEMENT_BROKEN,
                    e.place(),
                    "The statement cannot be read: " + e.reason() + ".",
                    empty ? "Write the statement that answers." : "Mend the text at this spot.");
        } catch (SeveralStatements e) {
            findings.add(
                    Code.STATEMENTS_SEVERAL,
                    e.place(),
                    "A second statement starts here.",
                    "Keep one statement in a file; move the other to a file of its own.");
        }
        return null;
    }

    private void checkKind(Statement statement) {
        Optional<Place> into = statement.topLevel("into");
        if (statement.kind() != StatementKind.QUERY || into.isPresent()) {
            findings.add(
                    Code.STATEMENT_KIND,
                    into.orElse(statement.source().at(0)),
                    "An operation under 'get' needs a query that changes nothing.",
                    "Use SELECT, WITH or VALUES, without INTO.");
        }
        if (operation.answer() == AnswerKind.ROWS) {
            statement
                    .topLevel("order")
                    .ifPresent(place -> findings.add(
                            Code.STATEMENT_ORDERED,
                            place,
                            "The statement sorts its rows itself, and pages sort them again.",
                            "Name the fields under 'order:' in module.yaml, and remove ORDER BY here."));
        }
    }

    private @Nullable OperationPlan plan(Statement statement) {
        String label = module.name() + "/v" + module.version().major() + " " + operation.method() + " " + path.text();
        StatementPlan plain = statementPlan(statement, label, null);
        List<Field> fields = describe(plain);
        if (fields == null) {
            return null;
        }
        PageOrder order = order(fields);
        if (order == null && operation.answer() == AnswerKind.ROWS) {
            return null;
        }
        StatementPlan paged = order == null ? plain : statementPlan(statement, label, order);
        if (forms == Compiler.Forms.EVERY_KIND && !prepares(paged, order != null)) {
            return null;
        }
        try {
            Binder binder = new Binder(operation.parameters(), path.placeholders(), operation.page());
            String scope = order == null ? label : label + " " + order.label();
            return new OperationPlan(
                    label,
                    operation.method(),
                    path,
                    operation.about(),
                    operation.answer(),
                    operation.sql().file(),
                    operation.sql().text(),
                    operation.parameters(),
                    binder,
                    paged,
                    fields,
                    order,
                    operation.page(),
                    scope,
                    operation.timeout());
        } catch (ValueReader.Unfit e) {
            throw new IllegalStateException("defaults were checked before", e);
        }
    }

    private StatementPlan statementPlan(Statement statement, String label, @Nullable PageOrder order) {
        return new StatementPlan(
                statement, label, operation.parameters(), order, sql -> catalog.bounded(sql, operation.timeout()));
    }

    /** The fields of an answer, or null with a finding, or null without one when nobody was asked. */
    private @Nullable List<Field> describe(StatementPlan plain) {
        return switch (catalog.describe(plain.plain())) {
            case Described.Fields(List<Field> fields) -> fieldsFit(fields) ? fields : null;
            case Described.Refused(String reason) -> {
                refused(reason);
                yield null;
            }
            case Described.Unknown() -> null;
        };
    }

    private void refused(String reason) {
        findings.add(
                Code.STATEMENT_REFUSED,
                Place.of(operation.sql().file()),
                "The source '" + module.source() + "' cannot prepare the statement: " + reason + ".",
                "Run the file in an SQL client against the same schema, and mend it.");
    }

    private boolean fieldsFit(List<Field> fields) {
        int before = findings.errors();
        Place place = Place.of(operation.sql().file());
        Set<String> names = new HashSet<>();
        for (Field field : fields) {
            if (!names.add(field.name())) {
                findings.add(
                        Code.FIELD_TWICE,
                        place,
                        "The answer has two fields named '" + field.name() + "'.",
                        "Give one of them another name with 'as'.");
            }
            if (!field.name().matches("[A-Za-z_][A-Za-z0-9_$-]*")) {
                findings.add(
                        Code.FIELD_UNNAMED,
                        place,
                        "The column '" + field.name() + "' has no name that fits a field.",
                        "Give it one with 'as'.");
            }
        }
        if (operation.answer() == AnswerKind.VALUE && fields.size() != 1) {
            findings.add(
                    Code.ANSWER_UNFIT,
                    operation.place(),
                    "The answer is one value, and the statement returns " + fields.size() + " fields.",
                    "Select one field, or write 'answer: row'.");
        }
        return findings.errors() == before;
    }

    private @Nullable PageOrder order(List<Field> fields) {
        int before = findings.errors();
        List<String> names = fields.stream().map(Field::name).toList();
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
            Field field = fields.get(index);
            checkOrderField(key, field);
            keys.add(new PageOrder.Key(field.name(), index, field.type(), key.descending()));
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

    private boolean prepares(StatementPlan plan, boolean paged) {
        List<Variant> samples = new ArrayList<>(plan.samples(Start.BEGINNING));
        if (paged) {
            samples.addAll(plan.samples(Start.AFTER_CHANGE));
            samples.addAll(plan.samples(Start.AFTER_TIES));
        }
        for (Variant sample : samples) {
            if (catalog.describe(sample.sql()) instanceof Described.Refused(String reason)) {
                refused(reason);
                return false;
            }
        }
        return true;
    }
}
