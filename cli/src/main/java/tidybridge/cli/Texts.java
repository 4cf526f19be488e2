package tidybridge.cli;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.MissingNode;

/** Texts in the service's answers, and in the addresses they are asked for at. */
final class Texts {

    private static final int TO_THE_MINUTE = 16;

    private Texts() {}

    static List<String> list(JsonNode array) {
        return array.valueStream().map(JsonNode::asString).toList();
    }

    /** "a, b"; "none" for nothing. */
    static String joined(JsonNode array) {
        return array.isEmpty()
                ? "none"
                : array.valueStream().map(JsonNode::asString).collect(Collectors.joining(", "));
    }

    /** The object of a name; a missing one when there is none. */
    static JsonNode named(JsonNode array, String name) {
        return array.valueStream()
                .filter(object -> object.path("name").asString().equals(name))
                .findFirst()
                .orElse(MissingNode.getInstance());
    }

    /** What somebody has after some of it was given and some taken. */
    static Set<String> changed(JsonNode array, List<String> given, List<String> taken) {
        Set<String> all = new LinkedHashSet<>(list(array));
        all.addAll(given);
        taken.forEach(all::remove);
        return all;
    }

    /** A moment to the minute, in UTC; another text when there is none. */
    static String moment(JsonNode node, String otherwise) {
        String text = node.asString("");
        return text.isEmpty() ? otherwise : minute(text);
    }

    /** A moment as the service writes it, to the minute. */
    static String minute(String moment) {
        return moment.length() < TO_THE_MINUTE
                ? moment
                : moment.substring(0, TO_THE_MINUTE).replace('T', ' ');
    }

    /** A text as one segment of a path, or as a name or value of a query. */
    static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }
}
