package tidybridge.core.definition;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Node;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.Written;
import tidybridge.core.text.YamlLayout;
import tidybridge.core.text.YamlText;

/** Puts the text of {@code module.yaml} into the house's order and layout. What it says, and every comment, stays. Pure. */
public final class ModuleFormat {

    /** What means something else in quotes. */
    private static final Pattern TYPED = Pattern.compile("(?i)[-+]?[\\d.].*|true|false|null|~|");

    private final KeyOrder order;

    private ModuleFormat(KeyOrder order) {
        this.order = order;
    }

    /**
     * The formatted text, with the line ends of the text.
     *
     * @throws BrokenText when it cannot be read
     * @throws Unfaithful when the result would say something else; then the text is better left as it is
     */
    public static String of(SourceText source) throws BrokenText {
        boolean windows = source.text().contains("\r\n");
        SourceText plain = new SourceText(source.file(), source.text().replace("\r\n", "\n"));
        ModuleFormat format = new ModuleFormat(KeyOrder.ofModule());
        String formatted = YamlLayout.formatted(plain, keys -> format.keys(keys, List.of()))
                .orElse(plain.text());
        if (!Objects.equals(said(plain), said(new SourceText(source.file(), formatted)))) {
            throw new Unfaithful();
        }
        return windows ? formatted.replace("\n", "\r\n") : formatted;
    }

    /** The text cannot be put into another layout without a change of what it says. */
    public static final class Unfaithful extends RuntimeException {
        Unfaithful() {
            super("its layout cannot be changed without a change of what it says");
        }
    }

    /** What a text says, whatever the order of its keys and their quotes; null for nothing. */
    private static @Nullable Object said(SourceText source) throws BrokenText {
        return YamlText.read(source).map(ModuleFormat::data).orElse(null);
    }

    private static Object data(Node node) {
        return switch (node) {
            case Node.Mapping mapping ->
                mapping.entries().stream().collect(Collectors.toMap(Node.Entry::key, entry -> data(entry.value())));
            case Node.Sequence list ->
                list.items().stream().map(ModuleFormat::data).toList();
            case Node.Scalar scalar ->
                List.of(
                        scalar.text(),
                        scalar.plain() && TYPED.matcher(scalar.text()).matches());
        };
    }

    private Written.Keys keys(Written.Keys keys, List<String> path) {
        List<String> known = order.of(path);
        List<Written.Entry> entries = new ArrayList<>(keys.entries().stream()
                .map(entry -> new Written.Entry(entry.key(), value(entry, path), entry.above(), entry.beside()))
                .toList());
        // what the schema does not know stays behind what it knows, in its own order
        entries.sort(Comparator.comparingInt(entry -> {
            int place = known.indexOf(entry.key());
            return place < 0 ? known.size() : place;
        }));
        return new Written.Keys(spaced(entries, path));
    }

    private Written value(Written.Entry entry, List<String> path) {
        List<String> below = new ArrayList<>(path);
        below.add(entry.key());
        return value(entry.value(), below);
    }

    private Written value(Written value, List<String> path) {
        return switch (value) {
            case Written.Word word -> word;
            case Written.Items(List<Written> items) ->
                new Written.Items(items.stream()
                        .map(item -> item instanceof Written.Keys ? item : value(item, path))
                        .toList());
            case Written.Keys keys -> keys(keys, path);
        };
    }

    /** Routes stand apart, and so do the parts of a module that need several lines; elsewhere one empty line stays one. */
    private static List<Written.Entry> spaced(List<Written.Entry> entries, List<String> path) {
        boolean routes = path.equals(List.of("routes"));
        List<Written.Entry> spaced = new ArrayList<>();
        for (Written.Entry entry : entries) {
            boolean first = spaced.isEmpty();
            List<String> above = new ArrayList<>(entry.above());
            while (!above.isEmpty() && above.getFirst().isEmpty()) {
                above.removeFirst();
            }
            // at the head of a module an empty line is for what needs several lines, or has something to say
            boolean wasApart = above.size() < entry.above().size() && !(path.isEmpty() && above.isEmpty());
            boolean tall = path.isEmpty()
                    && entry.value() instanceof Written.Keys below
                    && YamlLayout.isTall(below, List.of(entry.key()));
            if (!first && (routes || tall || wasApart)) {
                above.addFirst("");
            }
            spaced.add(new Written.Entry(entry.key(), entry.value(), single(above), entry.beside()));
        }
        return spaced;
    }

    private static List<String> single(List<String> lines) {
        List<String> single = new ArrayList<>();
        for (String line : lines) {
            if (!line.isEmpty() || single.isEmpty() || !single.getLast().isEmpty()) {
                single.add(line);
            }
        }
        return single;
    }
}
