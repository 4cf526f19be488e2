package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Stream;
import tidybridge.core.definition.ModuleEdit;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.text.Written;
import tidybridge.core.text.YamlLayout;

/** Puts drafted operations into a text. */
final class TextWithRoutes {

    private TextWithRoutes() {}

    static SortedMap<String, String> whole(FirstText first) {
        List<Written.Entry> all = new ArrayList<>(first.head().entries());
        Written routes = new Written.Keys(first.routes().stream()
                .map(route ->
                        route == first.routes().getFirst() ? new Written.Entry(route.key(), route.value()) : route)
                .toList());
        all.add(new Written.Entry("routes", routes, List.of(""), null));
        SortedMap<String, String> files = new TreeMap<>(first.statements());
        files.put(ModuleText.MAIN, YamlLayout.write(new Written.Keys(all)));
        return files;
    }

    /** What is there already stays; it is left out with a note, and so are statements that only it would use. */
    static FirstText.Added added(FirstText first, ModuleText other) {
        Map<String, String> files = new HashMap<>(other.files());
        Map<String, String> renamed = free(first.statements(), files);
        ModuleEdit edit = new ModuleEdit(other.files().getOrDefault(ModuleText.MAIN, ""));
        List<String> operations = new ArrayList<>();
        List<FirstText.Note> notes = new ArrayList<>(first.notes());
        Set<String> used = new HashSet<>();
        for (Written.Entry route : first.routes()) {
            List<String> taken = edit.addRoute(renamed(route, renamed));
            for (Written.Entry operation : FirstText.operationsOf(route)) {
                String label = FirstText.label(route, operation);
                if (taken.contains(operation.key())) {
                    operations.add(label);
                    statements(operation).forEach(used::add);
                } else {
                    notes.add(
                            new FirstText.Note(
                                    label,
                                    "It was not added: it is there already, or the text cannot be read or has its routes in braces."));
                }
            }
        }
        first.statements().forEach((file, sql) -> {
            if (used.contains(file)) {
                files.put(renamed.getOrDefault(file, file), sql);
            }
        });
        files.put(ModuleText.MAIN, edit.text());
        return new FirstText.Added(new ModuleText(other.folder(), files), operations, notes);
    }

    /** For each statement a file that is free, or has the very same. */
    private static Map<String, String> free(Map<String, String> statements, Map<String, String> files) {
        Map<String, String> renamed = new HashMap<>();
        Set<String> taken = new HashSet<>();
        statements.forEach((file, sql) -> {
            String free = file;
            for (int number = 2;
                    taken.contains(free) || (files.containsKey(free) && !sql.equals(files.get(free)));
                    number++) {
                free = file.replaceFirst("\\.sql$", "-" + number + ".sql");
            }
            taken.add(free);
            renamed.put(file, free);
        });
        return renamed;
    }

    private static Stream<String> statements(Written.Entry entry) {
        return switch (entry.value()) {
            case Written.Word(String text, boolean typed) ->
                entry.key().equals("sql") ? Stream.of(text) : Stream.empty();
            case Written.Items items -> Stream.empty();
            case Written.Keys(List<Written.Entry> below) -> below.stream().flatMap(TextWithRoutes::statements);
        };
    }

    /** The same with the files that the statements are kept under. */
    private static Written.Entry renamed(Written.Entry entry, Map<String, String> files) {
        Written value = switch (entry.value()) {
            case Written.Word(String text, boolean typed)
            when entry.key().equals("sql") -> new Written.Word(files.getOrDefault(text, text), typed);
            case Written.Word word -> word;
            case Written.Items items -> items;
            case Written.Keys(List<Written.Entry> below) ->
                new Written.Keys(below.stream().map(one -> renamed(one, files)).toList());
        };
        return new Written.Entry(entry.key(), value, entry.above(), entry.beside());
    }
}
