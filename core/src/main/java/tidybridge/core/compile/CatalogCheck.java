package tidybridge.core.compile;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Access;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.Method;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.OrderKey;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.infer.BindTypes;
import tidybridge.core.infer.TypeFit;
import tidybridge.core.infer.Uniqueness;
import tidybridge.core.plan.PageRequest;
import tidybridge.core.plan.StatementPlan;
import tidybridge.core.plan.Variant;
import tidybridge.core.sql.Bind;
import tidybridge.core.sql.Outline;
import tidybridge.core.sql.Statement;
import tidybridge.core.sql.StatementKind;
import tidybridge.core.text.Place;

/** What only a source's catalog tells about an operation: types that do not fit, rows that cannot be told apart, missing indexes. */
final class CatalogCheck {

    /** Below this many rows reading a whole table is what the server would do anyway. */
    static final long MANY_ROWS = 1_000;

    private final OperationDefinition operation;
    private final Statement statement;
    private final Catalog catalog;
    private final Contents contents;
    private final Findings findings;

    CatalogCheck(OperationScope scope, Statement statement, Contents contents) {
        this.operation = scope.operation();
        this.statement = statement;
        this.catalog = scope.catalog();
        this.contents = contents;
        this.findings = scope.findings();
    }

    /**
     * For a query alone.
     *
     * @param page the first page of a collection; null for everything else
     */
    void check(StatementPlan plan, @Nullable PageRequest page) {
        Outline outline = statement.outline();
        checkTypes(new BindTypes(contents).of(outline));
        checkUniqueness(outline);
        checkAccess(plan, page);
    }

    /** For a statement that changes data, or is one of several: nothing is known of its rows being many. */
    void checkChange(StatementPlan plan) {
        checkTypes(new BindTypes(contents).of(statement.outline()));
        checkWritten();
        if (statement.kind() == StatementKind.QUERY) {
            checkAccess(plan, null);
        }
    }

    private void checkTypes(Map<String, List<BindTypes.Met>> met) {
        for (ParameterDefinition parameter : operation.parameters()) {
            if (!parameter.in().sent()) {
                continue;
            }
            for (BindTypes.Met one : met.getOrDefault(parameter.name(), List.of())) {
                if (!checkType(parameter, one)) {
                    break;
                }
            }
        }
    }

    /** What may be absent is bound as NULL, and the column that takes it must take that. */
    private void checkWritten() {
        Set<String> told = new HashSet<>();
        for (Outline.BindUse use : statement.outline().uses()) {
            if (use instanceof Outline.BindUse.Column written
                    && written.table() != null
                    && isBoundAbsent(written.bind())) {
                contents.relation(written.table())
                        .flatMap(relation -> relation.column(written.column().column()))
                        .filter(column -> !column.nullable() && !column.numbered() && !column.generated())
                        .filter(column -> told.add(written.bind()))
                        .ifPresent(column -> notNull(written, column));
            }
        }
    }

    private void notNull(Outline.BindUse.Column written, Column column) {
        operation.parameters().stream()
                .filter(parameter -> parameter.name().equals(written.bind()))
                .forEach(parameter -> findings.add(
                        Code.PARAMETER_OPTIONAL_WRITTEN,
                        parameter.place(),
                        "The parameter '" + parameter.name() + "' may be left out, and " + written.table() + "."
                                + column.name() + " is never null, so leaving it out is refused.",
                        column.defaultText() == null
                                ? "Make it required, or give it a default."
                                : "Write 'coalesce(:" + written.bind() + ", default(" + column.name()
                                        + "))' in the statement, or make it required."));
    }

    /** True for a value that is written wherever it stands, also when it is absent. */
    private boolean isBoundAbsent(String bind) {
        boolean optional = operation.parameters().stream()
                .anyMatch(parameter ->
                        parameter.name().equals(bind) && parameter.in().sent() && parameter.mayBeAbsent());
        return optional
                && statement.binds().stream()
                        .anyMatch(found -> found.name().equals(bind)
                                && isWritten(found)
                                && statement.applies(found, given -> !given.equals(bind)));
    }

    /** A partial update is the one place where absent means something else. */
    private boolean isWritten(Bind bind) {
        boolean partial = statement.kind() == StatementKind.UPDATE && operation.method() == Method.PATCH;
        return statement.writes(bind) && !partial;
    }

    private boolean checkType(ParameterDefinition parameter, BindTypes.Met met) {
        ParameterType type =
                parameter.list() == null ? parameter.type() : parameter.list().type();
        ColumnType column = met.type();
        if (!TypeFit.fits(type, column.fieldType())) {
            if (column.fieldType() == FieldType.GEOMETRY) {
                findings.add(
                        Code.TYPE_MISMATCH,
                        parameter.place(),
                        "The parameter '" + parameter.name() + "' meets " + met.where()
                                + ", which is a geometry and takes no value as it is.",
                        "Write 'st_geomfromgeojson(:" + parameter.name() + ")' in the statement, and 'type: object'.");
                return false;
            }
            ParameterType fitting = TypeFit.of(column.fieldType(), column.base());
            findings.add(
                    Code.TYPE_MISMATCH,
                    parameter.place(),
                    "The parameter '" + parameter.name() + "' is " + article(type) + ", and meets " + met.where()
                            + ", which is " + column.text() + ".",
                    "Write 'type: " + fitting.label() + "'; "
                            + (isZone(type, column)
                                    ? "a moment is bound in UTC, and a column without a zone holds what the wall clock shows. Accept this where"
                                            + " the column holds UTC."
                                    : "a value of another type is converted for every row, and no index serves it."));
            return false;
        }
        var limits = parameter.list() == null
                ? parameter.constraints()
                : parameter.list().constraints();
        Integer most = limits.maxLength();
        Long length = column.length();
        if (most != null && length != null && column.members().isEmpty() && most > length) {
            findings.add(
                    Code.LENGTH_BEYOND_COLUMN,
                    parameter.place(),
                    "The parameter '" + parameter.name() + "' may be " + most + " characters long, and " + met.where()
                            + " holds " + length + ".",
                    "Write 'maxLength: " + length + "'.");
        }
        List<String> foreign = limits.allowed().stream()
                .filter(value ->
                        !column.members().isEmpty() && column.members().stream().noneMatch(value::equalsIgnoreCase))
                .toList();
        if (!foreign.isEmpty()) {
            findings.add(
                    Code.ENUM_BEYOND_COLUMN,
                    parameter.place(),
                    "The parameter '" + parameter.name() + "' allows " + String.join(", ", foreign) + ", which "
                            + met.where() + " can never be.",
                    "Use some of: " + String.join(", ", column.members()) + ".");
        }
        return true;
    }

    private static boolean isZone(ParameterType type, ColumnType column) {
        return type == ParameterType.DATE_TIME
                && (column.fieldType() == FieldType.LOCAL_DATE_TIME || column.fieldType() == FieldType.DATE);
    }

    private static String article(ParameterType type) {
        return ("aeiou".indexOf(type.label().charAt(0)) >= 0 ? "an " : "a ") + type.label();
    }

    private void checkUniqueness(Outline outline) {
        switch (operation.answer().kind()) {
            case ROWS -> checkOrder(outline);
            case ROW, FILE, VALUE -> checkOneRow(outline);
            case NOTHING -> {}
        }
    }

    private void checkOrder(Outline outline) {
        List<String> order = operation.order().stream().map(OrderKey::field).toList();
        Place place = operation.order().getFirst().place();
        String fields = String.join(", ", order);
        switch (new Uniqueness(outline, contents, statement.dialect()).of(order)) {
            case YES -> {}
            case NO ->
                findings.add(
                        Code.ORDER_NOT_TOTAL,
                        place,
                        "Several rows may share the same " + fields + ", so pages may repeat or lose some of them.",
                        "Add fields that make each row different, such as the key.");
            case UNKNOWN ->
                findings.add(
                        Code.ORDER_NOT_TOTAL,
                        place,
                        "Nothing in the catalog tells that no two rows share the same " + fields
                                + "; where they do, pages repeat or lose some.",
                        "Order by a key as well, or accept this with the reason why they are unique.");
        }
    }

    private void checkOneRow(Outline outline) {
        if (new Uniqueness(outline, contents, statement.dialect()).of(List.of()) == Uniqueness.Verdict.NO) {
            findings.add(
                    Code.ROW_MANY,
                    operation.place(),
                    "The statement can return many rows, and only the first is answered.",
                    operation.answer().kind() == AnswerKind.VALUE
                            ? "Aggregate them, or compare a whole key with parameters."
                            : "Compare a whole key with parameters, or write 'answer: rows'.");
        }
    }

    /** Asks how the source would run the forms; each table is told about once. */
    private void checkAccess(StatementPlan plan, @Nullable PageRequest page) {
        Set<String> told = new HashSet<>();
        for (Variant form : plan.explained(page)) {
            for (Access access : catalog.explain(form.sql(), SampleValues.of(form, operation.parameters()))) {
                checkAccess(access, told);
            }
        }
    }

    private void checkAccess(Access access, Set<String> told) {
        boolean many = access.rows() >= MANY_ROWS;
        boolean collection = operation.answer().kind() == AnswerKind.ROWS;
        if (many && collection && access.sorts() && told.add("order")) {
            findings.add(
                    Code.ORDER_WITHOUT_INDEX,
                    orderPlace(),
                    "The database reads about " + access.rows() + " rows of " + access.table()
                            + " and sorts them for every page.",
                    "Give it an index that begins with the order, or order by one it has; "
                            + "straight_join keeps the order of joined tables.");
        }
        boolean whole = access.way() == Access.Way.WHOLE_TABLE || access.way() == Access.Way.WHOLE_INDEX && !collection;
        if (many && whole && !access.sorts() && told.add("filter " + access.table())) {
            findings.add(
                    Code.FILTER_WITHOUT_INDEX,
                    Place.of(operation.sql().file()),
                    "The database reads " + access.table() + " from end to end, about " + access.rows() + " rows.",
                    "Give it an index on what the statement compares, or compare what has one.");
        }
    }

    private Place orderPlace() {
        return operation.order().isEmpty()
                ? operation.place()
                : operation.order().getFirst().place();
    }
}
