package tidybridge.core.drafting;

import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a first text is to hold.
 *
 * @param module the module's name
 * @param version such as {@code 1.0.0}
 * @param title the heading of its reference
 * @param source the source it is made from
 * @param reads who may read; null for nothing said
 * @param changes who may change; null for nothing said
 * @param tables in the order of the text
 * @param routines procedures and functions by their names
 * @param statements that somebody has already
 */
public record DraftChoices(
        String module,
        String version,
        String title,
        String source,
        @Nullable Reach reads,
        @Nullable Reach changes,
        List<TableChoice> tables,
        List<String> routines,
        List<StatementChoice> statements) {

    /** Who may call: everybody, or whoever holds a privilege. */
    public sealed interface Reach {
        record Everybody() implements Reach {}

        record Holders(String privilege) implements Reach {}
    }

    /**
     * One table or view.
     *
     * @param deeds those that are wanted, as far as they are possible
     * @param columns those that are wanted; all when empty
     * @param order the columns that tell a view's rows apart; what is known of it when empty
     * @param parents whether the rows that a row refers to stand within it
     */
    public record TableChoice(String name, Set<Deed> deeds, List<String> columns, List<String> order, boolean parents) {
        public TableChoice {
            deeds = Set.copyOf(deeds);
            columns = List.copyOf(columns);
            order = List.copyOf(order);
        }
    }

    /**
     * A statement.
     *
     * @param path where it is called; proposed when empty
     */
    public record StatementChoice(String sql, String path) {}

    public DraftChoices {
        tables = List.copyOf(tables);
        routines = List.copyOf(routines);
        statements = List.copyOf(statements);
    }
}
