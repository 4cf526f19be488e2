package tidybridge.core.route;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Finds what answers a path: a tree of segments, a literal before a placeholder at each step. Immutable and thread-safe; a match
 * allocates nothing and takes time by the number of segments, not of routes.
 *
 * @param <T> what answers
 */
public final class Router<T> {

    /** The most placeholders a path may have; twice this many ints hold any match's captures. */
    public static final int MOST_CAPTURES = 16;

    private final Node<T> root;

    private Router(Node<T> root) {
        this.root = root;
    }

    /** Collects routes. A later route with the same shape takes the place of the earlier. */
    public static final class Builder<T> {
        private final Draft<T> root = new Draft<>();

        public Builder<T> add(PathTemplate path, T target) {
            if (path.placeholders().size() > MOST_CAPTURES) {
                throw new IllegalArgumentException("a path may have at most " + MOST_CAPTURES + " placeholders");
            }
            root.add(path.segments(), 0, target);
            return this;
        }

        public Router<T> build() {
            return new Router<>(root.freeze());
        }
    }

    /**
     * Matches a path whose percent-encodings stand for reserved chars only (see {@link PathText#normalize}).
     *
     * @param from the offset of the slash to start at
     * @param captures takes the start and end offsets of each placeholder's text, from left to right
     * @return what answers, or null
     */
    public @Nullable T match(String path, int from, int[] captures) {
        if (from == path.length() || from + 1 == path.length() && path.charAt(from) == '/') {
            return root.target;
        }
        return match(root, path, from, captures, 0);
    }

    private static <T> @Nullable T match(Node<T> node, String path, int slash, int[] captures, int captured) {
        if (slash == path.length()) {
            return node.target;
        }
        int start = slash + 1;
        int end = path.indexOf('/', start);
        end = end < 0 ? path.length() : end;
        Node<T> literal = node.literal(path, start, end);
        if (literal != null) {
            T found = match(literal, path, end, captures, captured);
            if (found != null) {
                return found;
            }
        }
        if (node.placeholder == null || start == end) {
            return null;
        }
        captures[2 * captured] = start;
        captures[2 * captured + 1] = end;
        return match(node.placeholder, path, end, captures, captured + 1);
    }

    /** A step being built. */
    private static final class Draft<T> {
        private final Map<String, Draft<T>> literals = new HashMap<>();
        private @Nullable Draft<T> placeholder;
        private @Nullable T target;

        void add(List<PathTemplate.Segment> segments, int index, T answer) {
            if (index == segments.size()) {
                target = answer;
                return;
            }
            PathTemplate.Segment segment = segments.get(index);
            Draft<T> next = segment.placeholder()
                    ? placeholder == null ? placeholder = new Draft<>() : placeholder
                    : literals.computeIfAbsent(segment.text(), text -> new Draft<>());
            next.add(segments, index + 1, answer);
        }

        Node<T> freeze() {
            Node<T> node = new Node<>(placeholder == null ? null : placeholder.freeze(), target, literals.size());
            literals.forEach((text, draft) -> node.put(text, draft.freeze()));
            return node;
        }
    }

    /** A step of the tree; literal children sit in an open-addressing table keyed by a region of the path. */
    private static final class Node<T> {
        private final @Nullable Node<T> placeholder;
        private final @Nullable T target;
        private final @Nullable String[] keys;
        private final @Nullable Node<T>[] children;

        @SuppressWarnings({"unchecked", "rawtypes"})
        Node(@Nullable Node<T> placeholder, @Nullable T target, int literals) {
            int size = literals == 0 ? 0 : Integer.highestOneBit(literals * 2) * 2;
            this.placeholder = placeholder;
            this.target = target;
            this.keys = new String[size];
            this.children = (Node<T>[]) new Node[size];
        }

        void put(String text, Node<T> child) {
            int slot = hash(text, 0, text.length()) & keys.length - 1;
            while (keys[slot] != null) {
                slot = slot + 1 & keys.length - 1;
            }
            keys[slot] = text;
            children[slot] = child;
        }

        @Nullable
        Node<T> literal(String path, int start, int end) {
            if (keys.length == 0) {
                return null;
            }
            int slot = hash(path, start, end) & keys.length - 1;
            for (String key = keys[slot]; key != null; key = keys[slot]) {
                if (key.length() == end - start && path.startsWith(key, start)) {
                    return children[slot];
                }
                slot = slot + 1 & keys.length - 1;
            }
            return null;
        }

        private static int hash(String text, int start, int end) {
            int hash = 0;
            for (int i = start; i < end; i++) {
                hash = 31 * hash + text.charAt(i);
            }
            return hash ^ hash >>> 15;
        }
    }
}
