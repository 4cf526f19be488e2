package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.catalog.ForeignKey;
import tidybridge.core.catalog.Relation;
import tidybridge.core.sql.Dialect;
import tidybridge.core.text.PlainName;

/** The rows that a row refers to, joined to it and shown within it under dotted names. */
final class ParentRows {

    private static final Set<FieldType> LEFT_OUT = Set.of(FieldType.BINARY, FieldType.GEOMETRY);

    private final Relation relation;
    private final Dialect dialect;
    private final List<Parent> parents = new ArrayList<>();

    /** One of them; {@code name} is its alias in the statement and the object's name in the answer. */
    record Parent(String name, ForeignKey key, Relation relation) {}

    /**
     * Finds them by the foreign keys of a table.
     *
     * @param taken the names of the table's own fields
     */
    ParentRows(Relation relation, Contents contents, Dialect dialect, Set<String> taken) {
        this.relation = relation;
        this.dialect = dialect;
        Set<String> names = new HashSet<>();
        taken.forEach(name -> names.add(name.toLowerCase(Locale.ROOT)));
        names.add(relation.name().toLowerCase(Locale.ROOT));
        for (ForeignKey key : relation.foreignKeys()) {
            Optional<Relation> target = contents.relation(key.target());
            target.ifPresent(found -> parents.add(new Parent(ColumnNames.free(wanted(key), names), key, found)));
        }
    }

    /** {@code basin} for the column {@code basin_id}; the table's name for a key of several columns. */
    private static String wanted(ForeignKey key) {
        String column = key.columns().getFirst();
        String bare = column.replaceFirst("(?i)_?(id|no|key)$", "");
        String plain = PlainName.of(key.columns().size() > 1 || bare.isEmpty() ? key.target() : bare, "_");
        return plain.isEmpty() || Character.isDigit(plain.charAt(0)) ? "parent" : plain;
    }

    boolean isEmpty() {
        return parents.isEmpty();
    }

    List<Parent> all() {
        return List.copyOf(parents);
    }

    /** What is selected of them, with a comma before each. */
    String selected() {
        StringBuilder selected = new StringBuilder();
        for (Parent parent : parents) {
            ColumnNames names = new ColumnNames(parent.relation(), dialect);
            selected.append("\n ");
            for (Column column : parent.relation().columns()) {
                if (!LEFT_OUT.contains(column.type().fieldType())) {
                    selected.append(selected.charAt(selected.length() - 1) == ' ' ? " , " : ", ")
                            .append(dialect.named(parent.name()))
                            .append('.')
                            .append(dialect.named(column.name()))
                            .append(" as ")
                            .append(dialect.quoted(parent.name() + "." + names.of(column.name())));
                }
            }
        }
        return selected.toString();
    }

    /** A line for each join; a row whose column may be null stays without a parent. */
    String joins() {
        return parents.stream().map(this::join).collect(Collectors.joining());
    }

    /** The same of those whose names are given. */
    String joins(Set<String> names) {
        return parents.stream()
                .filter(parent -> names.contains(parent.name()))
                .map(this::join)
                .collect(Collectors.joining());
    }

    private String join(Parent parent) {
        List<String> conditions = new ArrayList<>();
        boolean nullable = false;
        for (int i = 0; i < parent.key().columns().size(); i++) {
            String column = parent.key().columns().get(i);
            nullable |= relation.column(column).map(Column::nullable).orElse(true);
            conditions.add(dialect.named(parent.name()) + "."
                    + dialect.named(parent.key().targets().get(i)) + " = " + dialect.named(relation.name()) + "."
                    + dialect.named(column));
        }
        String alias = parent.name().equals(parent.relation().name()) ? "" : " " + dialect.named(parent.name());
        return (nullable ? "\nleft join " : "\njoin ")
                + dialect.named(parent.relation().name()) + alias + " on " + String.join(" and ", conditions);
    }
}
