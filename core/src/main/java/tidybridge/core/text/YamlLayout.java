package tidybridge.core.text;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Writes a module's text in the house's layout: routes, methods and what holds named things have a line for each key, everything else
 * stands in braces as long as it fits on a line. Pure.
 */
public final class YamlLayout {

    private static final int WIDEST = 140;
    private static final String INDENT = "  ";

    /** What always has a line for each of its keys. */
    private static final Set<String> TALL =
            Set.of("routes", "parameters", "steps", "fields", "conditions", "accept", "sources", "roles");

    private static final Pattern NUMBER = Pattern.compile(
            "(?i)[-+]?(\\.inf|\\.\\d+|\\d+(\\.\\d*)?(e[-+]?\\d+)?|0[xo][\\da-f]+)|\\.nan|~|null|true|false|yes|no|y|n|on|off|");
    private static final Pattern EVERYWHERE = Pattern.compile("^[&*!|>'\"%@`#?:,\\[\\]{}-]|: |:$| #|^\\s|\\s$");
    private static final Pattern IN_FLOW = Pattern.compile("[,\\[\\]{}]");
    private static final Pattern UNPRINTABLE =
            Pattern.compile("[^\\x20-\\x7e\\u00a0-\\ud7ff\\ue000-\\ufefe\\uff00-\\ufffd]");

    private YamlLayout() {}

    /**
     * Writes a whole text.
     *
     * @return lines that end in LF
     */
    public static String write(Written.Keys root) {
        List<String> lines = new ArrayList<>();
        keys(root, new Place(List.of(), 0), lines);
        return lines.stream().map(line -> line + "\n").collect(Collectors.joining());
    }

    /**
     * Writes a text anew.
     *
     * @param arranged puts its keys into another order
     * @return empty for a text that is no mapping
     * @throws BrokenText as {@link YamlText#read} throws it
     */
    public static Optional<String> formatted(SourceText source, UnaryOperator<Written.Keys> arranged)
            throws BrokenText {
        if (!(YamlText.read(source).orElse(null) instanceof Node.Mapping)) {
            return Optional.empty();
        }
        return YamlWithComments.read(source).map(whole -> {
            String below = whole.below().stream()
                    .dropWhile(String::isEmpty)
                    .map(line -> line + "\n")
                    .collect(Collectors.joining());
            return write(arranged.apply(whole.keys())) + below;
        });
    }

    /** Whether keys have lines of their own below a path. */
    public static boolean isTall(Written.Keys keys, List<String> path) {
        return isTall(keys, new Place(path, path.size() * INDENT.length()));
    }

    /**
     * Writes one entry as it stands below a key of a text.
     *
     * @param above the keys it stands below, from the root
     * @return lines with their margins, without their ends
     */
    public static List<String> lines(Written.Entry entry, List<String> above) {
        List<String> lines = new ArrayList<>();
        entry(entry, new Place(above, above.size() * INDENT.length()), lines);
        return lines;
    }

    /** Where keys stand: below these, with a margin. */
    private record Place(List<String> above, int margin) {

        Place below(String key) {
            List<String> keys = new ArrayList<>(above);
            keys.add(key);
            return new Place(keys, margin + INDENT.length());
        }

        String indent() {
            return " ".repeat(margin);
        }
    }

    private static void keys(Written.Keys keys, Place place, List<String> lines) {
        for (Written.Entry entry : keys.entries()) {
            entry(entry, place, lines);
        }
    }

    private static void entry(Written.Entry entry, Place place, List<String> lines) {
        entry.above().forEach(line -> lines.add(line.isEmpty() ? "" : place.indent() + line));
        String head = place.indent() + word(entry.key(), false) + ":";
        String beside = entry.beside() == null ? "" : " " + entry.beside();
        if (entry.value() instanceof Written.Word(String text, boolean typed) && isLiteral(text)) {
            lines.add(head + (text.endsWith("\n") ? " |" : " |-") + beside);
            text.lines().forEach(line -> lines.add(line.isEmpty() ? "" : place.indent() + INDENT + line));
        } else if (entry.value() instanceof Written.Keys keys && isTall(keys, place.below(entry.key()))) {
            lines.add(head + beside);
            keys(keys, place.below(entry.key()), lines);
        } else {
            lines.add(head + " " + inline(entry.value(), false) + beside);
        }
    }

    private static boolean isTall(Written.Keys keys, Place at) {
        if (keys.entries().isEmpty()) {
            return false;
        }
        boolean routeOrMethod =
                at.above().getFirst().equals("routes") && at.above().size() <= 3;
        return routeOrMethod
                || TALL.contains(at.above().getLast())
                || needsLines(keys)
                || at.margin() + inline(keys, false).length() > WIDEST;
    }

    /** Whether something in it has no place in braces: a comment, or a text of several lines. */
    private static boolean needsLines(Written.Keys keys) {
        return keys.entries().stream()
                .anyMatch(entry -> entry.beside() != null
                        || !entry.above().isEmpty()
                        || (entry.value() instanceof Written.Word(String text, boolean typed) && isLiteral(text))
                        || (entry.value() instanceof Written.Keys below && needsLines(below)));
    }

    /** Whether a text has several lines that can stand as they are. */
    private static boolean isLiteral(String text) {
        return text.strip().contains("\n")
                && !text.startsWith(" ")
                && !text.startsWith("\n")
                && !text.endsWith("\n\n")
                && text.lines()
                        .noneMatch(line ->
                                line.endsWith(" ") || UNPRINTABLE.matcher(line).find());
    }

    /** A value on one line. */
    private static String inline(Written value, boolean inFlow) {
        return switch (value) {
            case Written.Word(String text, boolean typed) -> typed ? asTyped(text, inFlow) : word(text, inFlow);
            case Written.Items(List<Written> items) ->
                items.stream().map(YamlLayout::item).collect(Collectors.joining(", ", "[", "]"));
            case Written.Keys(List<Written.Entry> entries) ->
                entries.isEmpty()
                        ? "{}"
                        : entries.stream().map(YamlLayout::pair).collect(Collectors.joining(", ", "{ ", " }"));
        };
    }

    /** As it stands, unless what is a word in a line of its own would end or begin something in braces. */
    private static String asTyped(String text, boolean inFlow) {
        return !inFlow || NUMBER.matcher(text).matches() ? text : word(text, true);
    }

    /** In a list one key needs no braces. */
    private static String item(Written value) {
        return value instanceof Written.Keys keys && keys.entries().size() == 1
                ? pair(keys.entries().getFirst())
                : inline(value, true);
    }

    private static String pair(Written.Entry entry) {
        return word(entry.key(), true) + ": " + inline(entry.value(), true);
    }

    /** A text, in quotes where YAML would read it as something else. */
    static String word(String text, boolean inFlow) {
        boolean plain = !NUMBER.matcher(text).matches()
                && !EVERYWHERE.matcher(text).find()
                && !UNPRINTABLE.matcher(text).find()
                && !(inFlow && IN_FLOW.matcher(text).find());
        return plain ? text : quoted(text);
    }

    private static String quoted(String text) {
        if (!UNPRINTABLE.matcher(text).find() && (text.indexOf('\\') >= 0 || text.indexOf('"') >= 0)) {
            return "'" + text.replace("'", "''") + "'";
        }
        StringBuilder quoted = new StringBuilder("\"");
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '"', '\\' -> quoted.append('\\').append(c);
                case '\n' -> quoted.append("\\n");
                case '\t' -> quoted.append("\\t");
                default -> {
                    if (UNPRINTABLE.matcher(String.valueOf(c)).matches()) {
                        quoted.append(String.format(Locale.ROOT, "\\u%04x", (int) c));
                    } else {
                        quoted.append(c);
                    }
                }
            }
        }
        return quoted.append('"').toString();
    }
}
