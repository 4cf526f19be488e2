package tidybridge.core.drafting;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
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

    static ModuleText added(FirstText first, ModuleText other) {
        Map<String, String> files = new HashMap<>(other.files());
        Map<String, String> renamed = new HashMap<>();
        first.statements().forEach((file, sql) -> {
            String free = file;
            for (int number = 2; files.containsKey(free) && !files.get(free).equals(sql); number++) {
                free = file.replaceFirst("\\.sql$", "-" + number + ".sql");
            }
            files.put(free, sql);
            renamed.put(file, free);
        });
        ModuleEdit edit = new ModuleEdit(other.files().getOrDefault(ModuleText.MAIN, ""));
        first.routes().forEach(route -> edit.addRoute(renamed(route, renamed)));
        files.put(ModuleText.MAIN, edit.text());
        return new ModuleText(other.folder(), files);
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
