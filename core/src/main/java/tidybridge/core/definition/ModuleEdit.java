package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Node;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.Written;
import tidybridge.core.text.YamlLayout;
import tidybridge.core.text.YamlText;

/**
 * Writes parameters into a module's text, which otherwise stays as it is: comments, order and spacing are its writer's. The text is read
 * once, however many are written. Used by one thread.
 */
public final class ModuleEdit {

    private static final String INDENT = "  ";

    private final List<String> lines;
    private final Map<String, Node.Entry> routes = new LinkedHashMap<>();
    private Node.@Nullable Entry allRoutes;
    private boolean readable = true;
    private final Map<String, Node.Mapping> operations = new HashMap<>();

    /** New lines by the index of the line they come before; those that belong to what is above first. */
    private final TreeMap<Integer, Added> below = new TreeMap<>();

    /** New text by line, and there by offset. */
    private final Map<Integer, TreeMap<Integer, String>> within = new HashMap<>();

    /** Where parameters of an operation go, once one was added. */
    private final Map<String, Target> targets = new LinkedHashMap<>();

    private record Added(List<String> types, List<String> parameters) {
        Added() {
            this(new ArrayList<>(), new ArrayList<>());
        }
    }

    /** A place that takes parameters, in the style of what is there. */
    private sealed interface Target {

        /** As lines of their own. */
        record Block(int line, String margin) implements Target {}

        /** In braces on a line; the text from {@code open} to {@code close} is between the braces. */
        record Flow(int line, int open, int close, List<String> items, String before) implements Target {}
    }

    /** Begins to edit a text; one that cannot be read takes nothing. */
    public ModuleEdit(String text) {
        this.lines = new ArrayList<>(List.of(text.split("\n", -1)));
        try {
            Node root = YamlText.read(new SourceText(ModuleText.MAIN, text)).orElse(null);
            if (root instanceof Node.Mapping module) {
                module.entries().stream()
                        .filter(entry -> entry.key().equals("routes"))
                        .forEach(entry -> {
                            allRoutes = entry;
                            if (entry.value() instanceof Node.Mapping paths) {
                                paths.entries().forEach(this::know);
                            }
                        });
            }
        } catch (BrokenText e) {
            readable = false;
        }
    }

    private void know(Node.Entry route) {
        routes.put(route.key(), route);
        if (route.value() instanceof Node.Mapping methods) {
            for (Node.Entry method : methods.entries()) {
                if (method.value() instanceof Node.Mapping operation
                        && !operation.entries().isEmpty()) {
                    operations.put(method.key().toUpperCase(Locale.ROOT) + " " + route.key(), operation);
                }
            }
        }
    }

    /**
     * Adds a parameter to an operation.
     *
     * @param operation {@code GET /berths}
     * @param definition {@code { in: query, type: number }}
     * @return false when the text has no such operation, or has something else in the place of its parameters
     */
    public boolean add(String operation, String name, String definition) {
        Node.Mapping found = operations.get(operation);
        Target target = found == null ? null : targets.computeIfAbsent(operation, label -> target(found));
        String item = name + ": " + definition;
        switch (target) {
            case null -> {
                return false;
            }
            case Target.Block(int line, String margin) ->
                added(line).parameters().add(margin + item);
            case Target.Flow flow -> flow.items().add(item);
        }
        return true;
    }

    /**
     * Adds a route behind all others, or the methods of one that is there already and lacks them.
     *
     * @param route the path with its methods
     * @return the methods that were added: none where they are there already, where the text has its routes in braces, and in one that cannot be read
     */
    public List<String> addRoute(Written.Entry route) {
        if (!readable) {
            return List.of();
        }
        Node.Entry known = routes.get(route.key());
        if (known != null) {
            return addMethods(known, route);
        }
        if (allRoutes == null) {
            lines.addAll(end(), List.of("", "routes:"));
            return addLines(end(), route, INDENT.length());
        }
        int line = allRoutes.place().line();
        return switch (allRoutes.value()) {
            case Node.Mapping paths
            when isFlow(paths.place()) ->
                paths.entries().isEmpty() && isOpened(line - 1) ? addLines(line, route, INDENT.length()) : List.of();
            case Node.Mapping paths -> {
                Place last = paths.entries().getLast().place();
                yield addLines(behind(last), route, last.column() - 1);
            }
            case Node.Scalar nothing when nothing.text().isEmpty() -> addLines(line, route, INDENT.length());
            case Node.Scalar scalar -> List.of();
            case Node.Sequence sequence -> List.of();
        };
    }

    /** Makes {@code routes: {}} the head of what comes below it; false when the braces are elsewhere. */
    private boolean isOpened(int line) {
        String opened = lines.get(line).replaceFirst("^(\\s*routes:)\\s*\\{\\s*\\}", "$1");
        lines.set(line, opened);
        return opened.strip().equals("routes:") || opened.strip().startsWith("routes: #");
    }

    private List<String> addMethods(Node.Entry known, Written.Entry route) {
        if (!(known.value() instanceof Node.Mapping methods)
                || isFlow(methods.place())
                || !(route.value() instanceof Written.Keys(List<Written.Entry> operations))) {
            return List.of();
        }
        Place last = methods.entries().getLast().place();
        List<Written.Entry> lacking = operations.stream()
                .filter(operation -> methods.get(operation.key()) == null)
                .toList();
        for (Written.Entry operation : lacking) {
            List<String> written = YamlLayout.lines(operation, List.of("routes", route.key()));
            added(behind(last)).parameters().addAll(shifted(written, last.column() - 1 - 2 * INDENT.length()));
        }
        return lacking.stream().map(Written.Entry::key).toList();
    }

    private List<String> addLines(int line, Written.Entry route, int margin) {
        boolean first = lines.get(line - 1).strip().startsWith("routes:");
        if (!first || below.containsKey(line)) {
            added(line).parameters().add("");
        }
        List<String> written = YamlLayout.lines(new Written.Entry(route.key(), route.value()), List.of("routes"));
        added(line).parameters().addAll(shifted(written, margin - INDENT.length()));
        return methods(route);
    }

    private static List<String> methods(Written.Entry route) {
        return route.value() instanceof Written.Keys(List<Written.Entry> operations)
                ? operations.stream().map(Written.Entry::key).toList()
                : List.of();
    }

    private static List<String> shifted(List<String> written, int by) {
        return by == 0
                ? written
                : written.stream()
                        .map(line -> by > 0 ? " ".repeat(by) + line : line.substring(-by))
                        .toList();
    }

    /** The index behind the last line that has anything. */
    private int end() {
        int end = lines.size();
        while (end > 0 && lines.get(end - 1).isBlank()) {
            end--;
        }
        return end;
    }

    private @Nullable Target target(Node.Mapping operation) {
        Node.Entry parameters = operation.entries().stream()
                .filter(entry -> entry.key().equals("parameters"))
                .findFirst()
                .orElse(null);
        if (parameters == null) {
            return isFlow(operation.place()) ? flow(operation.place(), "parameters: ") : heading(operation);
        }
        return switch (parameters.value()) {
            case Node.Mapping mapping when isFlow(mapping.place()) -> flow(mapping.place(), "");
            case Node.Mapping mapping
            when !mapping.entries().isEmpty() -> {
                Place last = mapping.entries().getLast().place();
                yield new Target.Block(behind(last), margin(last));
            }
            case Node.Scalar nothing
            when nothing.text().isEmpty() && !isFlow(operation.place()) ->
                new Target.Block(parameters.place().line(), margin(parameters.place()) + INDENT);
            case Node.Mapping mapping -> null;
            case Node.Scalar scalar -> null;
            case Node.Sequence sequence -> null;
        };
    }

    private Target heading(Node.Mapping operation) {
        Place last = operation.entries().getLast().place();
        int line = behind(last);
        added(line).parameters().add(margin(last) + "parameters:");
        return new Target.Block(line, margin(last) + INDENT);
    }

    /** What is in braces over several lines is left to its writer. */
    private @Nullable Target flow(Place place, String before) {
        int close = closing(lines.get(place.line() - 1), place.column() - 1);
        return close < 0 ? null : new Target.Flow(place.line() - 1, place.column(), close, new ArrayList<>(), before);
    }

    /** The offset of the brace that closes the one at an offset; -1 when the line does not hold it. */
    private static int closing(String line, int open) {
        int depth = 0;
        char quote = 0;
        for (int i = open; i < line.length(); i++) {
            char c = line.charAt(i);
            if (quote != 0) {
                i += quote == '"' && c == '\\' ? 1 : 0;
                quote = c == quote ? 0 : quote;
            } else if ((c == '"' || c == '\'') && !isWordBefore(line, i)) {
                quote = c;
            } else if (c == '#' && line.charAt(i - 1) == ' ') {
                return -1;
            } else if (c == '{' || c == '[') {
                depth++;
            } else if ((c == '}' || c == ']') && --depth == 0) {
                return i;
            }
        }
        return -1;
    }

    /** An apostrophe inside a word quotes nothing. */
    private static boolean isWordBefore(String line, int index) {
        return index > 0 && Character.isLetterOrDigit(line.charAt(index - 1));
    }

    /**
     * Adds a type to a parameter that has none.
     *
     * @param definition {@code type: integer, minimum: 0}
     * @return false when the text has no such parameter, or one that does not say where it comes from
     */
    public boolean type(String operation, String name, String definition) {
        Node.Mapping found = operations.get(operation);
        Node parameters = found == null ? null : found.get("parameters");
        Node parameter = parameters instanceof Node.Mapping mapping ? mapping.get(name) : null;
        if (!(parameter instanceof Node.Mapping keys) || !(keys.get("in") instanceof Node.Scalar in)) {
            return false;
        }
        if (isFlow(keys.place())) {
            int length = in.text().length() + (in.plain() ? 0 : 2);
            insert(in.place().line() - 1, in.place().column() - 1 + length, ", " + definition);
        } else {
            String margin = margin(keys.entries().getFirst().place());
            added(behind(in.place())).types().addAll(block(definition, margin));
        }
        return true;
    }

    /** The text with everything that was added. */
    public String text() {
        targets.values().forEach(target -> {
            if (target instanceof Target.Flow flow) {
                write(flow);
            }
        });
        targets.clear();
        within.forEach((line, additions) -> {
            StringBuilder edited = new StringBuilder(lines.get(line));
            additions.descendingMap().forEach(edited::insert);
            lines.set(line, edited.toString());
        });
        within.clear();
        below.descendingMap().forEach((line, added) -> {
            lines.addAll(line, added.parameters());
            lines.addAll(line, added.types());
        });
        below.clear();
        return String.join("\n", lines);
    }

    private void write(Target.Flow flow) {
        String line = lines.get(flow.line());
        int end = flow.close();
        while (end > flow.open() && line.charAt(end - 1) == ' ') {
            end--;
        }
        boolean empty = end == flow.open();
        boolean comma = !empty && line.charAt(end - 1) == ',';
        String items = String.join(", ", flow.items());
        String added = flow.before().isEmpty() ? items : flow.before() + "{ " + items + " }";
        insert(flow.line(), end, (empty || comma ? " " : ", ") + added + (end == flow.close() ? " " : ""));
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

    private boolean isFlow(Place place) {
        String line = lines.get(place.line() - 1);
        return place.column() <= line.length() && line.charAt(place.column() - 1) == '{';
    }

    private static String margin(Place place) {
        return " ".repeat(place.column() - 1);
    }

    /** The index of the line behind a key and all that belongs to it. */
    private int behind(Place key) {
        int at = key.line();
        while (at < lines.size() && belongs(lines.get(at), key.column() - 1)) {
            at++;
        }
        return at;
    }

    private static boolean belongs(String line, int margin) {
        String bare = line.stripLeading();
        return !bare.isEmpty() && line.length() - bare.length() > margin;
    }

    private Added added(int line) {
        return below.computeIfAbsent(line, index -> new Added());
    }

    private void insert(int line, int offset, String text) {
        within.computeIfAbsent(line, index -> new TreeMap<>()).merge(offset, text, String::concat);
    }
}
