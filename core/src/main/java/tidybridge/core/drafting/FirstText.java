package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.SortedMap;
import java.util.TreeMap;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.text.Written;

/**
 * The first text of a module.
 *
 * @param head what stands above the routes
 * @param routes by path, in the order of the text
 * @param statements by file
 * @param notes what could not be made, and why
 * @param matched what the operations of a document were taken to mean
 */
public record FirstText(
        Written.Keys head,
        List<Written.Entry> routes,
        SortedMap<String, String> statements,
        List<Note> notes,
        MatchedDocument matched) {

    /** A sentence about a table, view or routine. */
    public record Note(String subject, String words) {}

    /**
     * What the operations of a document were taken to mean.
     *
     * @param columns of each table that one of them is about: those that a match can name, with those of the tables it refers to
     */
    public record MatchedDocument(List<Matched> operations, SortedMap<String, List<String>> columns) {

        static final MatchedDocument NONE = new MatchedDocument(List.of(), new TreeMap<>());

        public MatchedDocument {
            operations = List.copyOf(operations);
            columns = java.util.Collections.unmodifiableSortedMap(new TreeMap<>(columns));
        }
    }

    /**
     * An operation of a document and what it was taken to mean.
     *
     * @param label {@code GET /berths}
     * @param table empty for none
     */
    public record Matched(String label, String about, String table, List<MatchedName> names) {
        public Matched {
            names = List.copyOf(names);
        }
    }

    /**
     * A name of an operation.
     *
     * @param type in the words of a definition
     * @param shown whether the answer has it
     * @param sent whether callers send it
     * @param column what it means; empty for nothing
     */
    public record MatchedName(String name, String type, boolean shown, boolean sent, String column) {}

    public FirstText {
        routes = List.copyOf(routes);
        statements = java.util.Collections.unmodifiableSortedMap(new TreeMap<>(statements));
        notes = List.copyOf(notes);
    }

    /**
     * A text that has the drafted operations.
     *
     * @param operations those that it has now, {@code GET /berth}
     * @param notes what could not be made, or not be added
     */
    public record Added(ModuleText text, List<String> operations, List<Note> notes) {
        public Added {
            operations = List.copyOf(operations);
            notes = List.copyOf(notes);
        }
    }

    /** The same with more notes. */
    public FirstText with(List<Note> more) {
        List<Note> all = new ArrayList<>(notes);
        all.addAll(more);
        return new FirstText(head, routes, statements, all, matched);
    }

    /** The whole as a module of its own, in a folder. */
    public Added alone(String folder) {
        List<String> operations = routes.stream()
                .flatMap(route -> operationsOf(route).stream().map(operation -> label(route, operation)))
                .toList();
        return new Added(new ModuleText(folder, TextWithRoutes.whole(this)), operations, notes);
    }

    /** The same operations within another text; those whose route and method stand there already are left out, with a note. */
    public Added within(ModuleText other) {
        return TextWithRoutes.added(this, other);
    }

    static List<Written.Entry> operationsOf(Written.Entry route) {
        return route.value() instanceof Written.Keys(List<Written.Entry> operations) ? operations : List.of();
    }

    static String label(Written.Entry route, Written.Entry operation) {
        return operation.key().toUpperCase(Locale.ROOT) + " " + route.key();
    }
}
