package tidybridge.core.drafting;

import java.util.List;
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
 */
public record FirstText(
        Written.Keys head, List<Written.Entry> routes, SortedMap<String, String> statements, List<Note> notes) {

    /** A sentence about a table, view or routine. */
    public record Note(String subject, String words) {}

    public FirstText {
        routes = List.copyOf(routes);
        statements = java.util.Collections.unmodifiableSortedMap(new TreeMap<>(statements));
        notes = List.copyOf(notes);
    }

    /** The whole as a module of its own, in a folder. */
    public ModuleText text(String folder) {
        return new ModuleText(folder, TextWithRoutes.whole(this));
    }

    /** The same operations within another text; those whose route and method stand there already are left out. */
    public ModuleText within(ModuleText other) {
        return TextWithRoutes.added(this, other);
    }
}
