package tidybridge.core.drafting;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.Relation;
import tidybridge.core.sql.Dialect;
import tidybridge.core.text.PlainName;

/** One name for each column of a table, which is that of its field and of its parameter: callers send back what they were shown. */
final class ColumnNames {

    private static final int LONGEST = 60;

    private final Dialect dialect;
    private final Map<String, String> names = new LinkedHashMap<>();

    ColumnNames(Relation relation, Dialect dialect) {
        this.dialect = dialect;
        Set<String> taken = new HashSet<>();
        relation.columns().stream().map(Column::name).filter(ColumnNames::fits).forEach(name -> {
            names.put(name, name);
            taken.add(name.toLowerCase(Locale.ROOT));
        });
        relation.columns().stream()
                .map(Column::name)
                .filter(name -> !fits(name))
                .forEach(name -> names.put(name, free(name, taken)));
    }

    private static boolean fits(String name) {
        return name.matches("[A-Za-z_][A-Za-z0-9_]{0," + LONGEST + "}");
    }

    /** The name itself where it fits and nobody has it; otherwise one that is made of it. */
    static String free(String name, Set<String> taken) {
        if (fits(name) && taken.add(name.toLowerCase(Locale.ROOT))) {
            return name;
        }
        String plain = PlainName.of(name, "_");
        String base = plain.isEmpty() ? "column" : Character.isDigit(plain.charAt(0)) ? "c_" + plain : plain;
        String found = base;
        for (int number = 2; !taken.add(found); number++) {
            found = base + "_" + number;
        }
        return found;
    }

    /** A name as a part of a path. */
    static String segment(String name) {
        String plain = PlainName.of(name, "-");
        return plain.isEmpty() ? "table-" + Integer.toHexString(name.hashCode()) : plain;
    }

    /** A comment on one line. */
    static String oneLine(String comment) {
        return comment.strip().replaceAll("\\s+", " ");
    }

    String of(String column) {
        return names.getOrDefault(column, column);
    }

    List<String> of(List<String> columns) {
        return columns.stream().map(this::of).toList();
    }

    /** A column as a query names it, with another name where its own is none for a field. */
    String selected(Column column) {
        String name = of(column.name());
        return dialect.named(column.name()) + (name.equals(column.name()) ? "" : " as " + dialect.named(name));
    }

    /** A column as a condition or a change names it. */
    String written(String column) {
        return dialect.named(column);
    }
}
