package tidybridge.core.text;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A piece of a YAML 1.2 text that knows where it stands. */
public sealed interface Node {

    Place place();

    /** How people call this kind of node, for messages. */
    String kind();

    /** A mapping; its entries keep the order of the text. */
    record Mapping(Place place, List<Entry> entries) implements Node {
        public Mapping {
            entries = List.copyOf(entries);
        }

        @Override
        public String kind() {
            return "a mapping";
        }

        /** The value under a key, or null when the key is absent. */
        public @Nullable Node get(String key) {
            for (Entry entry : entries) {
                if (entry.key().equals(key)) {
                    return entry.value();
                }
            }
            return null;
        }
    }

    /** One key of a mapping with its value. */
    record Entry(String key, Place place, Node value) {}

    /** A sequence. */
    record Sequence(Place place, List<Node> items) implements Node {
        public Sequence {
            items = List.copyOf(items);
        }

        @Override
        public String kind() {
            return "a list";
        }
    }

    /**
     * A scalar, as it is written.
     *
     * @param plain true when it stands without quotes, so that {@code true} or {@code 12} may be read as such
     */
    record Scalar(Place place, String text, boolean plain) implements Node {
        @Override
        public String kind() {
            return "a single value";
        }
    }
}
