package tidybridge.core.compile;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.ShapedField;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.OrderKey;
import tidybridge.core.definition.SortRule;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.Sorts;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.Nearest;

/** Compiles what a collection is ordered by: by its text, and by its callers. */
final class OrderCompiler {

    private static final int MOST_KEYS = 32;

    private final OperationScope scope;
    private final OperationDefinition operation;
    private final Statement statement;
    private final Findings findings;
    private final List<Field> columns;
    private final List<Field> ordered;

    /**
     * Prepares to compile.
     *
     * @param columns of the statement
     * @param sample the statement with a value of its kind for each bind parameter
     */
    OrderCompiler(OperationScope scope, Statement statement, List<Field> columns, String sample) {
        this.scope = scope;
        this.operation = scope.operation();
        this.statement = statement;
        this.findings = scope.findings();
        this.columns = columns;
        this.ordered = ordered(sample);
    }

    /** What the text orders by; null with a finding when it cannot be, or says nothing. */
    @Nullable
    PageOrder order() {
        int before = findings.errors();
        List<String> names = columns.stream().map(Field::name).toList();
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
            keys.add(key(index, key.descending(), place));
        }
        checkOrderLength(keys);
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
    private List<Field> ordered(String sample) {
        Set<String> named = new HashSet<>();
        operation.order().forEach(key -> named.add(key.field()));
        operation.collection().sorts().forEach(rule -> named.add(rule.column()));
        boolean hasTexts =
                columns.stream().anyMatch(column -> named.contains(column.name()) && column.type() == FieldType.STRING);
        boolean unnamed = columns.stream().map(Field::name).distinct().count() < columns.size();
        if (!hasTexts || unnamed) {
            return columns;
        }
        String paged = StatementPlan.paged(sample);
        List<Field> found = scope.describe(statement, paged, paged);
        return found == null || found.size() != columns.size() ? columns : found;
    }

    private void checkOrderLength(List<PageOrder.Key> keys) {
        long length = length(keys);
        if (keys.size() > MOST_KEYS) {
            findings.add(
                    Code.ORDER_UNFIT,
                    operation.order().getFirst().place(),
                    "The order has " + keys.size() + " fields, and " + MOST_KEYS + " may be.",
                    "Remove those that a key before them makes needless.");
        }
        if (length > Sorts.LONGEST_ORDER) {
            findings.add(
                    Code.ORDER_UNFIT,
                    operation.order().getFirst().place(),
                    "The fields of the order may be " + length
                            + " characters long together, and a position in an address holds " + Sorts.LONGEST_ORDER
                            + ".",
                    "Order by shorter fields, or by the start of the long one: 'left(title, 200) as title_start'.");
        }
    }

    private long length(List<PageOrder.Key> keys) {
        return keys.stream().mapToLong(this::length).sum();
    }

    /** A member is a number, whatever it is called. */
    private long length(PageOrder.Key key) {
        return key.ofMembers() ? 0 : ordered.get(key.field()).length();
    }

    private PageOrder.Key key(int index, boolean descending, int place) {
        Field column = ordered.get(index);
        return new PageOrder.Key(
                column.name(),
                index,
                column.type(),
                descending,
                column.nullable() || columns.get(index).nullable(),
                column.members(),
                place);
    }

    /**
     * What callers may sort by.
     *
     * @param usual what the text orders by, which follows whatever they sort by
     * @param fields of the answer
     */
    Sorts sorts(PageOrder usual, List<ShapedField> fields) {
        long left = Sorts.LONGEST_ORDER - length(usual.keys());
        List<Sorts.Sorted> sorted = new ArrayList<>();
        for (SortRule rule : operation.collection().sorts()) {
            Sorts.Sorted one = sorted(rule, fields, left);
            if (one != null) {
                sorted.add(one);
            }
        }
        return new Sorts(usual, sorted, columns.size(), left);
    }

    private Sorts.@Nullable Sorted sorted(SortRule rule, List<ShapedField> fields, long left) {
        List<String> names = columns.stream().map(Field::name).toList();
        int index = names.indexOf(rule.column());
        if (index < 0) {
            findings.add(
                    Code.SORT_UNKNOWN,
                    rule.place(),
                    "The statement returns no column '" + rule.column() + "' to sort by."
                            + Nearest.hint(rule.column(), names),
                    "Use one of: " + String.join(", ", names) + ".");
            return null;
        }
        ShapedField shown = fields.stream()
                .filter(field -> field.column() == index)
                .findFirst()
                .orElse(null);
        if (shown == null || shown.mask() != null) {
            findings.add(
                    Code.SORT_LEAKS,
                    rule.place(),
                    "The field '" + rule.column() + "' is " + (shown == null ? "hidden" : "masked")
                            + ", and callers who sort by it would find out its values.",
                    "Show it as it is, or do not sort by it.");
            return null;
        }
        PageOrder.Key key = key(index, false, -1);
        if (!key.type().fitsOrder() || length(key) > left) {
            findings.add(
                    Code.SORT_UNFIT,
                    rule.place(),
                    key.type().fitsOrder()
                            ? "The field '" + rule.column() + "' may be " + length(key)
                                    + " characters long, and a position in an address has room for " + left
                                    + " more."
                            : "The field '" + rule.column() + "' is of a type that a page cannot be continued after.",
                    key.type().fitsOrder()
                            ? "Sort by a shorter field, or by the start of the long one: 'left(title, 200) as title_start'."
                            : "Sort by a text, a number, a date or a time.");
            return null;
        }
        return new Sorts.Sorted(shown.name(), key, length(key));
    }
}
