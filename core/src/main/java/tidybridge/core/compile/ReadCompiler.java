package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.AddressList;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Askable;
import tidybridge.core.bind.Sortable;
import tidybridge.core.catalog.Field;
import tidybridge.core.condition.Conditions;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.CollectionRules;
import tidybridge.core.definition.OfferRule;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.PageRule;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.finding.Findings;
import tidybridge.core.infer.BoundKinds;
import tidybridge.core.plan.Choices;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FileColumns;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.Filters;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OperationHeader;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.RowForms;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.Sorts;
import tidybridge.core.plan.Start;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.Totals;
import tidybridge.core.plan.ValuePlan;
import tidybridge.core.plan.Variant;
import tidybridge.core.sql.Purpose;
import tidybridge.core.sql.Renderer;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.ValueKind;

/** Compiles an operation that is one query. */
final class ReadCompiler {

    private final OperationScope scope;
    private final OperationDefinition operation;
    private final Statement statement;
    private final Findings findings;

    ReadCompiler(OperationScope scope, Statement statement) {
        this.scope = scope;
        this.operation = scope.operation();
        this.statement = statement;
        this.findings = scope.findings();
    }

    /** The plan, or null when an error was found or nobody could be asked. */
    @Nullable
    ReadPlan compile() {
        Map<String, Integer> values = StatementPlan.indexes(operation.parameters());
        StatementPlan plan =
                new StatementPlan(statement, scope.label(), operation.parameters(), values, scope::bounded);
        String sample = new Renderer(statement).sample(this::kind);
        List<Field> columns = scope.describe(statement, plan.plain(), sample);
        if (columns == null) {
            return null;
        }
        if (columns.isEmpty()) {
            scope.refused(statement, "it returns no rows");
            return null;
        }
        int before = findings.errors();
        AnswerCompiler answer = new AnswerCompiler(operation, columns, scope.catalog(), findings);
        List<ShapedField> fields = answer.compile();
        FileColumns file = answer.file();
        RowReply reply = new ReplyCompiler(operation, columns, findings)
                .ofRow(
                        fields,
                        scope.needs().open() && scope.module().admission().addresses() == AddressList.EVERYWHERE);

        OrderCompiler orders = new OrderCompiler(scope, statement, columns, sample);
        PageOrder order = operation.answer().kind() == AnswerKind.ROWS ? orders.order() : null;
        Sorts sorts = order == null ? null : orders.sorts(order, fields);
        Filters filters =
                fields.isEmpty() ? Filters.NONE : new FilterCompiler(scope, statement, columns, fields).compile();
        if (findings.errors() > before) {
            return null;
        }
        StatementPlan filtered = filters.all().isEmpty() ? plan : filtered(values, filters);
        if (scope.asksForEveryForm() && !suits(filtered, sorts, filters, columns)) {
            return null;
        }
        if (scope.asksForEveryForm()) {
            answer.checkFlags();
        }
        return plan(filtered, columns, fields, reply, file, sorts, filters);
    }

    private StatementPlan filtered(Map<String, Integer> values, Filters filters) {
        Map<String, Integer> names = new HashMap<>(values);
        names.putAll(filters.indexes());
        return new StatementPlan(statement, scope.label(), operation.parameters(), names, scope::bounded);
    }

    private @Nullable ValueKind kind(String bind) {
        return operation.parameters().stream()
                .filter(parameter -> parameter.name().equals(bind))
                .map(BoundKinds::of)
                .findFirst()
                .orElse(null);
    }

    /** Shows every kind of form to the source, and what it would do to the catalog's checks. */
    private boolean suits(StatementPlan plan, @Nullable Sorts sorts, Filters filters, List<Field> columns) {
        PageOrder order = sorts == null ? null : sorts.usual();
        List<Variant> samples = new ArrayList<>();
        if (sorts == null || order == null) {
            samples.addAll(plan.samples(null));
        } else {
            for (Start start : List.of(Start.BEGINNING, Start.AFTER_CHANGE, Start.AFTER_TIES)) {
                samples.addAll(plan.samples(order.from(start)));
            }
            PageRule page = operation.page();
            if (page != null && page.jumps()) {
                samples.add(plan.sample(order.from(Start.FROM).deep(1)));
                samples.add(plan.sample(order.from(Start.AFTER_TIES).backward()));
            }
            if (!operation.collection().totals().isEmpty()) {
                samples.add(plan.sample(order.from(Start.BEGINNING).with(Purpose.COUNT)));
            }
            for (String name : sorts.sortable().lengths().keySet()) {
                samples.add(plan.sample(sorts.order("-" + name).from(Start.AFTER_TIES)));
            }
        }
        if (!scope.prepares(statement, samples)) {
            return false;
        }
        if (sorts != null) {
            new SortCheck(scope, plan, sorts).check();
        }
        if (order != null
                && !new FilterCheck(scope, statement, plan, filters, columns, order.from(Start.BEGINNING)).suits()) {
            return false;
        }
        scope.catalog()
                .contents()
                .ifPresent(contents -> new CatalogCheck(scope, statement, contents)
                        .check(plan, order == null ? null : order.from(Start.BEGINNING)));
        return true;
    }

    private @Nullable ReadPlan plan(
            StatementPlan plan,
            List<Field> columns,
            List<ShapedField> fields,
            RowReply reply,
            @Nullable FileColumns file,
            @Nullable Sorts sorts,
            Filters filters) {
        PageRule page = operation.page();
        CollectionRules rules = operation.collection();
        OfferRule offers = operation.answer().offers();
        RowForms forms = new RowForms(
                new Choices(fields, columns.stream().map(Field::name).toList(), offers.chosenFields()),
                formats(offers));
        OperationHeader header = scope.header(
                Conditions.ofRead(scope.identity(), operation.change().conditions(), operation.parameters()),
                new Askable(
                        page,
                        sorts == null ? Sortable.NONE : sorts.sortable(),
                        forms.choices().names(),
                        rules.totals(),
                        forms.formats(),
                        false),
                Stream.concat(operation.parameters().stream(), filters.parameters().stream())
                        .toList());
        return switch (operation.answer().kind()) {
            case ROWS ->
                sorts == null || page == null
                        ? null
                        : new CollectionPlan(
                                header,
                                plan,
                                fields,
                                sorts,
                                page,
                                filters,
                                forms,
                                new Totals(rules.totals(), rules.totalTimeout()),
                                reply,
                                scope.catalog()
                                        .contents()
                                        .filter(contents -> HeadStart.isPossible(statement, plan.plain(), contents))
                                        .isPresent());
            case ROW -> new RowPlan(header, plan, fields, reply, forms);
            case VALUE -> new ValuePlan(header, plan, fields.getFirst(), reply);
            case NOTHING -> new NothingPlan(header, plan, reply);
            case FILE -> file == null ? null : new FilePlan(header, plan, file, reply);
        };
    }

    /** Beside others JSON is one to name; alone it is not. */
    private static List<RowFormat> formats(OfferRule offers) {
        return offers.formats().isEmpty()
                ? List.of()
                : Stream.concat(Stream.of(RowFormat.JSON), offers.formats().stream())
                        .toList();
    }
}
