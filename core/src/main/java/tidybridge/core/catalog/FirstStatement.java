package tidybridge.core.catalog;

import java.util.List;
import java.util.stream.Collectors;

/** The statement somebody would begin with for a table, a view or a routine, as text to copy. */
public final class FirstStatement {

    private static final String INDENT = "  ";

    private FirstStatement() {}

    /** Every column by name; one row by its key when the table has one. */
    public static String of(Relation relation) {
        String columns =
                relation.columns().stream().map(column -> quoted(column.name())).collect(Collectors.joining(", "));
        StringBuilder sql = new StringBuilder("select " + columns + "\nfrom " + quoted(relation.name()) + "\n");
        relation.indexes().stream().filter(Index::primary).findFirst().ifPresent(key -> {
            List<String> conditions = key.columns().stream()
                    .map(column -> quoted(column) + " = :" + parameter(column))
                    .toList();
            sql.append("where ")
                    .append(String.join("\n" + INDENT + "and ", conditions))
                    .append('\n');
        });
        return sql.toString();
    }

    /** A call with a bind parameter for each of the routine's own. */
    public static String of(Routine routine) {
        String arguments = routine.parameters().stream()
                .map(argument -> ":" + parameter(argument.name()))
                .collect(Collectors.joining(", ", "(", ")"));
        return switch (routine.kind()) {
            case PROCEDURE -> "call " + quoted(routine.name()) + arguments + "\n";
            case FUNCTION -> "select " + quoted(routine.name()) + arguments + " as value\n";
        };
    }

    private static String quoted(String name) {
        return name.matches("[A-Za-z_][A-Za-z0-9_]*") ? name : "`" + name.replace("`", "``") + "`";
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
