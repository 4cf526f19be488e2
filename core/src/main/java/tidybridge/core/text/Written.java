package tidybridge.core.text;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A value that is to be written as YAML. {@link YamlLayout} decides how it stands in lines. */
public sealed interface Written {

    /**
     * A single value.
     *
     * @param typed true for what stands as it is, such as a number; a text gets quotes where YAML would read it as something else
     */
    record Word(String text, boolean typed) implements Written {}

    /** A list. */
    record Items(List<Written> items) implements Written {
        public Items {
            items = List.copyOf(items);
        }
    }

    /** Keys with their values, in their order. */
    record Keys(List<Entry> entries) implements Written {
        public Keys {
            entries = List.copyOf(entries);
        }
    }

    /**
     * One key.
     *
     * @param above lines that stand above it: comments, and empty lines
     * @param beside a comment behind it, {@code # why}; null for none
     */
    record Entry(
            String key,
            Written value,
            List<String> above,
            @Nullable String beside) {
        public Entry {
            above = List.copyOf(above);
        }

        public Entry(String key, Written value) {
            this(key, value, List.of(), null);
        }
    }

    static Written text(String text) {
        return new Word(text, false);
    }

    static Written typed(Object value) {
        return new Word(String.valueOf(value), true);
    }

    static Written texts(List<String> texts) {
        return new Items(texts.stream().map(Written::text).toList());
    }

    /**
     * What a text in braces says, {@code { type: number, minimum: 0 }}.
     *
     * @throws IllegalArgumentException when it is no mapping
     */
    static Keys keysOf(String yaml) {
        try {
            if (YamlText.read(new SourceText("keys", yaml)).orElse(null) instanceof Node.Mapping mapping) {
                return (Keys) of(mapping);
            }
        } catch (BrokenText e) {
            throw new IllegalArgumentException("not a mapping: " + yaml, e);
        }
        throw new IllegalArgumentException("not a mapping: " + yaml);
    }

    private static Written of(Node node) {
        return switch (node) {
            case Node.Scalar scalar -> new Word(scalar.text(), scalar.plain());
            case Node.Sequence list ->
                new Items(list.items().stream().map(Written::of).toList());
            case Node.Mapping mapping ->
                new Keys(mapping.entries().stream()
                        .map(entry -> new Entry(entry.key(), of(entry.value())))
                        .toList());
        };
    }

    /** Collects keys in their order; used by one thread. */
    final class Collector {

        private final List<Entry> entries = new ArrayList<>();

        public Collector put(String key, Written value) {
            entries.add(new Entry(key, value));
            return this;
        }

        public Collector put(String key, String text) {
            return put(key, Written.text(text));
        }

        public Collector flag(String key) {
            return put(key, typed(true));
        }

        public boolean isEmpty() {
            return entries.isEmpty();
        }

        public Collector putAll(Keys keys) {
            entries.addAll(keys.entries());
            return this;
        }

        public Keys keys() {
            return new Keys(entries);
        }
    }
}
