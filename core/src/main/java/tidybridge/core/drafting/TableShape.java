package tidybridge.core.drafting;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.advise.StatementLook;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Relation;
import tidybridge.core.sql.Dialect;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.Written;

/** A table or view as a text names it: its columns, what tells its rows apart, and the parts that its operations share. */
final class TableShape {

    final Relation relation;
    final DraftChoices.TableChoice choice;
    final Drafting drafting;
    final Dialect dialect;
    final ColumnNames names;
    final List<Column> columns;

    /** What tells the rows apart and can stand in an order; empty for nothing known. */
    final List<Column> key;

    final String segment;

    /** Those whose rows stand within; null when nobody wants them. */
    private final @Nullable ParentRows parents;

    TableShape(Relation relation, DraftChoices.TableChoice choice, Drafting drafting) {
        this.relation = relation;
        this.choice = choice;
        this.drafting = drafting;
        this.dialect = drafting.catalog().dialect();
        this.names = new ColumnNames(relation, dialect);
        this.key = key();
        this.columns = columns();
        this.segment = ColumnNames.segment(relation.name());
        this.parents = choice.parents()
                ? new ParentRows(
                        relation,
                        drafting.contents(),
                        dialect,
                        Set.copyOf(names.of(
                                relation.columns().stream().map(Column::name).toList())))
                : null;
    }

    List<Column> columns() {
        for (String wanted : choice.columns()) {
            if (relation.column(wanted).isEmpty()) {
                throw new Drafting.UnknownObject("'" + relation.name() + "'", "has no column", wanted);
            }
        }
        // the key is needed for what stands in an order and in addresses
        return relation.columns().stream()
                .filter(column -> choice.columns().isEmpty()
                        || key.contains(column)
                        || choice.columns().stream().anyMatch(column.name()::equalsIgnoreCase))
                .toList();
    }

    List<Column> key() {
        if (!choice.order().isEmpty()) {
            return named(choice.order());
        }
        if (relation.kind() == Relation.Kind.VIEW) {
            return named(orderOfView());
        }
        return relation.keys().stream()
                .map(index -> named(index.columns()))
                .filter(found -> !found.isEmpty()
                        && found.stream()
                                .allMatch(column -> column.type().fieldType().fitsOrder()))
                .findFirst()
                .orElse(List.of());
    }

    List<Column> named(List<String> wanted) {
        return wanted.stream()
                .map(name -> relation.column(name)
                        .orElseThrow(
                                () -> new Drafting.UnknownObject("'" + relation.name() + "'", "has no column", name)))
                .toList();
    }

    /** What its own query tells of a view. */
    List<String> orderOfView() {
        String sql = "select "
                + relation.columns().stream()
                        .map(column -> dialect.named(column.name()))
                        .collect(Collectors.joining(", "))
                + " from " + dialect.named(relation.name());
        StatementLook look = StatementLook.of(new SourceText("view.sql", sql), drafting.catalog());
        if (look.trouble() != null) {
            drafting.note(relation.name(), "It cannot be read: " + look.trouble());
            return List.of();
        }
        return look.order().stream()
                .filter(name -> relation.column(name).isPresent())
                .toList();
    }

    boolean wants(Deed deed) {
        return choice.deeds().contains(deed);
    }

    String rowPath() {
        return "/" + segment
                + key.stream()
                        .map(column -> "/{" + names.of(column.name()) + "}")
                        .collect(Collectors.joining());
    }

    /** Whether the key can stand in an address: bytes, and numbers that are not exact, cannot be found again by what was shown. */
    boolean isAddressable() {
        return !key.isEmpty()
                && key.stream().allMatch(column -> switch (column.type().fieldType()) {
                    case INTEGER, DECIMAL, BOOLEAN, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT -> true;
                    case FLOAT, BITS, JSON, BINARY, GEOMETRY -> false;
                });
    }

    boolean isChangeable() {
        return relation.kind() == Relation.Kind.TABLE && !drafting.catalog().isReadOnly();
    }

    int placeOf(String column) {
        return relation.columns().stream()
                .map(Column::name)
                .map(name -> name.toLowerCase(Locale.ROOT))
                .toList()
                .indexOf(column.toLowerCase(Locale.ROOT));
    }

    boolean sameAsKey(List<String> targets) {
        return targets.size() == key.size()
                && key.stream().allMatch(column -> targets.stream().anyMatch(column.name()::equalsIgnoreCase));
    }

    /** Whether other tables' columns stand in its rows. */
    boolean showsParents() {
        return parents != null && !parents.isEmpty();
    }

    /** The file of the statement that finds one row. */
    String rowFile() {
        return drafting.keep(segment + "-row", query() + "where " + askedByKey() + "\n");
    }

    /** What tells a new row apart, as an insert hands it back. */
    String returnedKey() {
        return key.stream().map(names::selected).collect(Collectors.joining(", "));
    }

    /** Its columns, as a change hands them back. */
    String returned() {
        return columns.stream().map(names::selected).collect(Collectors.joining(", "));
    }

    /** What a query of its rows begins with, up to its tables. */
    String query() {
        String joins = parents == null ? "" : parents.joins();
        return "select " + selected() + "\nfrom " + named() + joins + "\n";
    }

    private String selected() {
        if (parents == null || parents.isEmpty()) {
            return returned();
        }
        return columns.stream()
                        .map(column -> named() + "." + names.selected(column))
                        .collect(Collectors.joining(", "))
                + parents.selected();
    }

    /** A column in a condition of a query. */
    String asked(String column) {
        return (parents == null || parents.isEmpty() ? "" : named() + ".") + names.written(column);
    }

    /** The condition that finds one row, of a query. */
    String askedByKey() {
        return key.stream()
                .map(column -> asked(column.name()) + " = :" + names.of(column.name()))
                .collect(Collectors.joining("\n  and "));
    }

    /** The same of a change. */
    String byKey() {
        return key.stream()
                .map(column -> names.written(column.name()) + " = :" + names.of(column.name()))
                .collect(Collectors.joining("\n  and "));
    }

    Written.Collector keyParameters() {
        Written.Collector parameters = new Written.Collector();
        key.forEach(column -> parameters.put(
                names.of(column.name()), parameter(column, "path", false).keys()));
        return parameters;
    }

    Written.Collector parameter(Column column, String in, boolean required) {
        Written.Collector parameter =
                new Written.Collector().put("in", in).putAll(ColumnLimits.of(column, relation.checks()));
        if (required) {
            parameter.flag("required");
        }
        if (in.equals("body") && column.nullable()) {
            parameter.flag("nullable");
        }
        Written example = ColumnLimits.example(column, relation.checks());
        if ((required || in.equals("path")) && example != null) {
            parameter.put("example", example);
        }
        if (!column.about().isBlank()) {
            parameter.put("about", ColumnNames.oneLine(column.about()));
        }
        return parameter;
    }

    /** What the comments of columns say, and where the row is that a foreign key means. */
    void fields(Written.Collector operation) {
        Written.Collector fields = new Written.Collector();
        for (Column column : columns) {
            if (!column.about().isBlank()) {
                fields.put(
                        names.of(column.name()),
                        new Written.Collector()
                                .put("about", ColumnNames.oneLine(column.about()))
                                .keys());
            }
        }
        if (!fields.isEmpty()) {
            operation.put("fields", fields.keys());
        }
    }

    void add(String path, String method, Written.Collector operation) {
        if (!drafting.add(path, method, operation.keys())) {
            drafting.note(relation.name(), method.toUpperCase(Locale.ROOT) + " " + path + " is there already.");
        }
    }

    /** Whether the source's user may run a statement; a note says why not. */
    boolean isAllowed(String deed, String sql) {
        Optional<String> refusal = drafting.refusal(sql);
        refusal.ifPresent(reason -> note(deed + " is refused by the database: " + reason + "."));
        return refusal.isEmpty();
    }

    void note(String words) {
        drafting.note(relation.name(), words);
    }

    /** Its own name, as a statement has it. */
    String named() {
        return dialect.named(relation.name());
    }
}
