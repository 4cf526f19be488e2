package tidybridge.core.catalog;

import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import tidybridge.core.sql.Dialect;

/** The statement somebody would begin with for a table, a view or a routine, as text to copy. */
public final class FirstStatement {

    private static final String INDENT = "  ";

    private final Dialect dialect;

    public FirstStatement(Dialect dialect) {
        this.dialect = dialect;
    }

    /** Every column by name; one row by its key when the table has one. */
    public String of(Relation relation) {
        String columns = relation.columns().stream()
                .map(column -> dialect.named(column.name()) + alias(column.name()))
                .collect(Collectors.joining(", "));
        StringBuilder sql = new StringBuilder("select " + columns + "\nfrom " + dialect.named(relation.name()) + "\n");
        relation.indexes().stream().filter(Index::primary).findFirst().ifPresent(key -> {
            List<String> conditions = key.columns().stream()
                    .map(column -> dialect.named(column) + " = :" + parameter(column))
                    .toList();
            sql.append("where ")
                    .append(String.join("\n" + INDENT + "and ", conditions))
                    .append('\n');
        });
        return sql.toString();
    }

    /** A name that no field can have gets one that it can. */
    private static String alias(String column) {
        if (column.matches("[\\p{L}_][\\p{L}\\p{N}_$-]*(\\.[\\p{L}_][\\p{L}\\p{N}_$-]*)*")) {
            return "";
        }
        String plain = column.strip()
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^\\p{L}\\p{N}_]+", "_")
                .replaceAll("^_+|_+$", "");
        return " as " + (plain.matches("[a-z_][a-z0-9_]*") ? plain : "c_" + Integer.toHexString(column.hashCode()));
    }

    /** A call with a bind parameter for each of the routine's own. */
    public String of(Routine routine) {
        String arguments = routine.parameters().stream()
                .map(argument -> ":" + parameter(argument.name()))
                .collect(Collectors.joining(", ", "(", ")"));
        return switch (routine.kind()) {
            case PROCEDURE -> "call " + dialect.named(routine.name()) + arguments + "\n";
            case FUNCTION -> "select " + dialect.named(routine.name()) + arguments + " as value\n";
        };
    }

    /** {@code berth_id} as {@code berthId}, the way callers write names. */
    static String parameter(String column) {
        StringBuilder name = new StringBuilder();
        for (int i = 0; i < column.length(); i++) {
            char c = column.charAt(i);
            boolean fits = Character.isLetterOrDigit(c) && c < 128;
            if (fits) {
                boolean upper = i > 0 && !name.isEmpty() && column.charAt(i - 1) == '_';
                name.append(upper ? Character.toUpperCase(c) : c);
            }
        }
        return name.isEmpty() || Character.isDigit(name.charAt(0)) ? "p" + name : name.toString();
    }
}
