package tidybridge.core.route;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * A URL path with {@code {placeholders}} that each fill a whole segment (OpenAPI path templating).
 *
 * @param text as written, such as {@code /berths/{berthId}}
 */
public record PathTemplate(String text, List<Segment> segments) {

    /** One segment: a literal, or a placeholder by name. */
    public record Segment(String text, boolean placeholder) {}

    public PathTemplate {
        segments = List.copyOf(segments);
    }

    /**
     * Reads a template.
     *
     * @throws IllegalArgumentException with a clause that says what is wrong with it
     */
    public static PathTemplate parse(String text) {
        if (!text.startsWith("/")) {
            throw new IllegalArgumentException("a path starts with '/'");
        }
        List<Segment> segments = new ArrayList<>();
        Set<String> names = new HashSet<>();
        if (!text.equals("/")) {
            for (String part : text.substring(1).split("/", -1)) {
                Segment segment = segment(part);
                if (segment.placeholder() && !names.add(segment.text())) {
                    throw new IllegalArgumentException("the placeholder {" + segment.text() + "} stands in it twice");
                }
                segments.add(segment);
            }
        }
        return new PathTemplate(text, segments);
    }

    /** {@code /berths/{}} for {@code /berths/{berthId}}: paths are the same whatever their placeholders are called. */
    public static String shape(String path) {
        return path.replaceAll("\\{[^}]*}", "{}");
    }

    private static Segment segment(String part) {
        if (part.isEmpty()) {
            throw new IllegalArgumentException("a segment is empty");
        }
        if (part.matches("\\{[A-Za-z_][A-Za-z0-9_]*}")) {
            return new Segment(part.substring(1, part.length() - 1), true);
        }
        if (!part.matches("[A-Za-z0-9._~!$'()+,;=:@-]+") || part.equals(".") || part.equals("..")) {
            throw new IllegalArgumentException(
                    "the segment '" + part + "' is neither plain letters, digits and '-._~' nor one {placeholder}");
        }
        return new Segment(part, false);
    }

    /** The placeholders' names from left to right. */
    public List<String> placeholders() {
        return segments.stream().filter(Segment::placeholder).map(Segment::text).toList();
    }

    /** This template below a prefix of literal segments. */
    public PathTemplate under(String... prefix) {
        List<Segment> all = new ArrayList<>();
        StringBuilder path = new StringBuilder();
        for (String literal : prefix) {
            all.add(new Segment(literal, false));
            path.append('/').append(literal);
        }
        all.addAll(segments);
        return new PathTemplate(path + (segments.isEmpty() ? "" : text), all);
    }

    /**
     * True when some path matches both and neither template is the more particular one, so that nobody could say which should
     * answer. {@code /berths/free} beside {@code /berths/{id}} is fine: the literal wins.
     */
    public boolean ambiguousWith(PathTemplate other) {
        if (segments.size() != other.segments.size()) {
            return false;
        }
        boolean mine = false;
        boolean theirs = false;
        for (int i = 0; i < segments.size(); i++) {
            Segment a = segments.get(i);
            Segment b = other.segments.get(i);
            if (!a.placeholder() && !b.placeholder() && !a.text().equals(b.text())) {
                return false;
            }
            mine |= !a.placeholder() && b.placeholder();
            theirs |= a.placeholder() && !b.placeholder();
        }
        return mine == theirs;
    }
}
