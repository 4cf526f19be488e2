package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.bind.Binder;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.condition.Conditions;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.OrderKey;
import tidybridge.core.definition.PageRule;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.infer.BoundKinds;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FileColumns;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OperationHeader;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.Start;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.ValuePlan;
import tidybridge.core.plan.Variant;
import tidybridge.core.sql.Renderer;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.ValueKind;
import tidybridge.core.text.Nearest;

/** Compiles an operation that is one query. */
final class ReadCompiler {

    /** The most characters of all texts of an order together: a position has to fit into an address, and the server sorts by as many. */
    private static final int LONGEST_ORDER = 1_000;

    private static final int MOST_KEYS = 32;

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
        RowReply reply = new ReplyCompiler(operation, columns, findings).ofRow(fields);
        PageOrder order = operation.answer().kind() == AnswerKind.ROWS ? order(sample, columns) : null;
        if (findings.errors() > before || scope.asksForEveryForm() && !suits(plan, order)) {
            return null;
        }
        if (scope.asksForEveryForm()) {
            answer.checkFlags();
        }
        return plan(plan, fields, reply, file, order);
    }

    private @Nullable ValueKind kind(String bind) {
        return operation.parameters().stream()
                .filter(parameter -> parameter.name().equals(bind))
                .map(BoundKinds::of)
                .findFirst()
                .orElse(null);
    }

    /** Shows every kind of form to the source, and what it would do to the catalog's checks. */
    private boolean suits(StatementPlan plan, @Nullable PageOrder order) {
        List<Variant> samples = new ArrayList<>();
        if (order == null) {
            samples.addAll(plan.samples(null));
        } else {
            for (Start start : Start.values()) {
                samples.addAll(plan.samples(order.from(start)));
            }
        }
        if (!scope.prepares(statement, samples)) {
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
            List<ShapedField> fields,
            RowReply reply,
            @Nullable FileColumns file,
            @Nullable PageOrder order) {
        PageRule page = operation.page();
        Set<String> own = page == null ? Set.of() : Set.of(Binder.LIMIT, Binder.AFTER);
        OperationHeader header = scope.header(
                Conditions.ofRead(scope.identity(), operation.change().conditions(), operation.parameters()), own);
        return switch (operation.answer().kind()) {
            case ROWS ->
                order == null || page == null
                        ? null
                        : new CollectionPlan(header, plan, fields, order, page, header.label() + " " + order.label());
            case ROW -> new RowPlan(header, plan, fields, reply);
            case VALUE -> new ValuePlan(header, plan, fields.getFirst(), reply);
            case NOTHING -> new NothingPlan(header, plan, reply);
            case FILE -> file == null ? null : new FilePlan(header, plan, file, reply);
        };
    }

    private @Nullable PageOrder order(String sample, List<Field> columns) {
        int before = findings.errors();
        List<String> names = columns.stream().map(Field::name).toList();
        List<Field> ordered = ordered(sample, columns);
        List<PageOrder.Key> keys = new ArrayList<>();
        int places = 0;
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
            Field column = ordered.get(index);
            checkOrderField(key, column);
            int place = column.members() != Field.Members.NONE ? columns.size() + places++ : -1;
            keys.add(new PageOrder.Key(
                    column.name(),
                    index,
                    column.type(),
                    key.descending(),
                    column.nullable() || columns.get(index).nullable(),
                    column.members(),
                    place));
        }
        checkOrderLength(keys, ordered);
        return keys.isEmpty() || findings.errors() > before ? null : new PageOrder(keys);
    }

    private void checkOrderField(OrderKey key, Field field) {
        if (!field.type().fitsOrder()) {
            findings.add(
                    Code.ORDER_UNFIT,
                    key.place(),
                    "The field '" + field.name() + "' is of a type that a page cannot be continued after.",
                    "Order by a text, a number, a date or a time.");
        }
    }

    /**
     * The columns as a page orders them. A page is put around the statement, and by that a member of a list can turn into a text or a
     * text into a member.
     */
    private List<Field> ordered(String sample, List<Field> columns) {
        boolean hasTexts = operation.order().stream()
                .anyMatch(key -> columns.stream()
                        .anyMatch(column -> column.name().equals(key.field()) && column.type() == FieldType.STRING));
        boolean unnamed = columns.stream().map(Field::name).distinct().count() < columns.size();
        if (!hasTexts || unnamed) {
            return columns;
        }
        String paged = StatementPlan.paged(sample);
        List<Field> found = scope.describe(statement, paged, paged);
        return found == null || found.size() != columns.size() ? columns : found;
    }

    private void checkOrderLength(List<PageOrder.Key> keys, List<Field> columns) {
        long length = keys.stream()
                .filter(key -> !key.ofMembers())
                .mapToLong(key -> columns.get(key.field()).length())
                .sum();
        if (keys.size() > MOST_KEYS) {
            findings.add(
                    Code.ORDER_UNFIT,
                    operation.order().getFirst().place(),
                    "The order has " + keys.size() + " fields, and " + MOST_KEYS + " may be.",
                    "Remove those that a key before them makes needless.");
        }
        if (length > LONGEST_ORDER) {
            findings.add(
                    Code.ORDER_UNFIT,
                    operation.order().getFirst().place(),
                    "The fields of the order may be " + length
                            + " characters long together, and a position in an address holds " + LONGEST_ORDER + ".",
                    "Order by shorter fields, or by the start of the long one: 'left(title, 200) as title_start'.");
        }
    }
}
