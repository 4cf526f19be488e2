package tidybridge.core.drafting;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.document.DocumentedApi;

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
 * @param routines procedures and functions
 * @param statements that somebody has already
 * @param document what somebody else tells of the operations; null for none
 */
public record DraftChoices(
        String module,
        String version,
        String title,
        String source,
        @Nullable Reach reads,
        @Nullable Reach changes,
        List<TableChoice> tables,
        List<RoutineChoice> routines,
        List<StatementChoice> statements,
        @Nullable DocumentChoice document) {

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
     * A procedure or a function.
     *
     * @param results how many result sets a procedure was seen to return
     */
    public record RoutineChoice(String name, int results) {}

    /**
     * A statement.
     *
     * @param path where it is called; proposed when empty
     */
    public record StatementChoice(String sql, String path) {}

    /**
     * A document with the tables and columns that its operations mean.
     *
     * @param usual true to add the operations that rows usually have: one row, a new one, a change, a removal
     * @param matches by operation, {@code GET /berths}; what is not there is proposed
     */
    public record DocumentChoice(DocumentedApi api, boolean usual, Map<String, Match> matches) {
        public DocumentChoice {
            matches = Map.copyOf(matches);
        }
    }

    /**
     * What an operation means.
     *
     * @param table empty for none: its statement is still to be written
     * @param columns by the names of fields and inputs, {@code berth_no} or {@code basin.name}, empty for none; null, and for a name that is not
     *     there, what is proposed
     */
    public record Match(String table, @Nullable Map<String, String> columns) {}

    /** The same with other routines. */
    public DraftChoices withRoutines(List<RoutineChoice> others) {
        return new DraftChoices(module, version, title, source, reads, changes, tables, others, statements, document);
    }

    /** Nothing but one routine, which everybody may call. */
    public DraftChoices only(RoutineChoice routine) {
        Reach everybody = new Reach.Everybody();
        return new DraftChoices(
                "rehearsed",
                "1.0.0",
                title,
                source,
                everybody,
                everybody,
                List.of(),
                List.of(routine),
                List.of(),
                null);
    }

    public DraftChoices {
        tables = List.copyOf(tables);
        routines = List.copyOf(routines);
        statements = List.copyOf(statements);
    }
}
