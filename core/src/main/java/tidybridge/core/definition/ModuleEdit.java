package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Node;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.YamlText;

/** Writes parameters into a module's text, which otherwise stays as it is: comments, order and spacing are its writer's. */
public final class ModuleEdit {

    private static final String INDENT = "  ";

    private final List<String> lines;

    private ModuleEdit(String text) {
        this.lines = new ArrayList<>(List.of(text.split("\n", -1)));
    }

    /**
     * Adds a parameter to an operation.
     *
     * @param operation {@code GET /berths}
     * @param definition {@code { in: query, type: number }}
     * @return the new text; empty when the text has no such operation, or has its parameters on one line with others
     */
    public static Optional<String> add(String text, String operation, String name, String definition) {
        Node.Mapping found = operation(text, operation);
        if (found == null || isFlow(text, found.place())) {
            return Optional.empty();
        }
        ModuleEdit edit = new ModuleEdit(text);
        Node parameters = found.get("parameters");
        if (parameters instanceof Node.Mapping mapping && !mapping.entries().isEmpty()) {
            if (isFlow(text, mapping.place())) {
                return Optional.empty();
            }
            Place last = mapping.entries().getLast().place();
            edit.insertBelow(last, " ".repeat(last.column() - 1) + name + ": " + definition);
        } else if (parameters == null) {
            Place last = found.entries().getLast().place();
            String margin = " ".repeat(last.column() - 1);
            edit.insertBelow(last, margin + "parameters:", margin + INDENT + name + ": " + definition);
        } else {
            return Optional.empty();
        }
        return Optional.of(String.join("\n", edit.lines));
    }

    /**
     * Adds a type to a parameter that has none.
     *
     * @param definition {@code type: integer, minimum: 0}
     * @return the new text; empty when the text has no such parameter, or one that does not say where it comes from
     */
    public static Optional<String> type(String text, String operation, String name, String definition) {
        Node.Mapping found = operation(text, operation);
        Node parameters = found == null ? null : found.get("parameters");
        Node parameter = parameters instanceof Node.Mapping mapping ? mapping.get(name) : null;
        if (!(parameter instanceof Node.Mapping keys) || !(keys.get("in") instanceof Node.Scalar in)) {
            return Optional.empty();
        }
        ModuleEdit edit = new ModuleEdit(text);
        if (isFlow(text, keys.place())) {
            edit.insertAfter(in.place(), in.text().length(), ", " + definition);
        } else {
            Place place = keys.entries().getFirst().place();
            String margin = " ".repeat(place.column() - 1);
            edit.insertBelow(in.place(), block(definition, margin).toArray(String[]::new));
        }
        return Optional.of(String.join("\n", edit.lines));
    }

    /** {@code type: integer, minimum: 0} as one line for each key; what is in brackets stays together. */
    private static List<String> block(String definition, String margin) {
        List<String> keys = new ArrayList<>();
        int depth = 0;
        int start = 0;
        for (int i = 0; i <= definition.length(); i++) {
            char c = i == definition.length() ? ',' : definition.charAt(i);
            depth += c == '{' || c == '[' ? 1 : c == '}' || c == ']' ? -1 : 0;
            if (c == ',' && depth == 0) {
                keys.add(margin + definition.substring(start, i).strip());
                start = i + 1;
            }
        }
        return keys;
    }

    private static Node.@Nullable Mapping operation(String text, String label) {
        int space = label.indexOf(' ');
        String method = label.substring(0, space).toLowerCase(Locale.ROOT);
        try {
            Node root = YamlText.read(new SourceText(ModuleText.MAIN, text)).orElse(null);
            Node routes = root instanceof Node.Mapping module ? module.get("routes") : null;
            Node route = routes instanceof Node.Mapping mapping ? mapping.get(label.substring(space + 1)) : null;
            Node operation = route instanceof Node.Mapping mapping ? mapping.get(method) : null;
            return operation instanceof Node.Mapping mapping
                            && !mapping.entries().isEmpty()
                    ? mapping
                    : null;
        } catch (BrokenText e) {
            return null;
        }
    }

    private static boolean isFlow(String text, Place place) {
        String line = text.split("\n", -1)[place.line() - 1];
        return place.column() <= line.length() && line.charAt(place.column() - 1) == '{';
    }

    /** Inserts lines behind a key and all that belongs to it. */
    private void insertBelow(Place key, String... added) {
        int at = key.line();
        while (at < lines.size() && belongs(lines.get(at), key.column() - 1)) {
            at++;
        }
        lines.addAll(at, List.of(added));
    }

    private static boolean belongs(String line, int margin) {
        String bare = line.stripLeading();
        return !bare.isEmpty() && line.length() - bare.length() > margin;
    }

    private void insertAfter(Place place, int length, String added) {
        String line = lines.get(place.line() - 1);
        int at = place.column() - 1 + length;
        lines.set(place.line() - 1, line.substring(0, at) + added + line.substring(at));
    }
}
