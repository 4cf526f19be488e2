package tidybridge.core.definition;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Node;
import tidybridge.core.text.Place;

/** Reads the keys of one mapping and turns everything unfit into findings. */
final class MappingReader {

    private static final Pattern DURATION = Pattern.compile("([1-9]\\d{0,6})(ms|s|m)");

    private final Node.Mapping mapping;
    private final String what;
    private final Findings findings;

    private MappingReader(Node.Mapping mapping, String what, Findings findings) {
        this.mapping = mapping;
        this.what = what;
        this.findings = findings;
    }

    /** Opens a node that must be a mapping with some of the known keys. */
    static Optional<MappingReader> open(Node node, String what, Findings findings, List<String> known) {
        Optional<MappingReader> reader = openAny(node, what, findings);
        reader.ifPresent(found -> found.refuseUnknown(known));
        return reader;
    }

    /** Opens a node that must be a mapping whose keys are names of the writer's own. */
    static Optional<MappingReader> openAny(Node node, String what, Findings findings) {
        if (node instanceof Node.Mapping mapping) {
            return Optional.of(new MappingReader(mapping, what, findings));
        }
        findings.add(
                Code.VALUE_UNFIT,
                node.place(),
                capital(what) + " must be a mapping, not " + node.kind() + ".",
                "Write one 'key: value' a line.");
        return Optional.empty();
    }

    private void refuseUnknown(List<String> known) {
        for (Node.Entry entry : mapping.entries()) {
            if (!known.contains(entry.key())) {
                findings.add(
                        Code.UNKNOWN_KEY,
                        entry.place(),
                        capital(what) + " has no key '" + entry.key() + "'." + Nearest.hint(entry.key(), known),
                        "Use one of: " + String.join(", ", known) + ".");
            }
        }
    }

    Place place() {
        return mapping.place();
    }

    List<Node.Entry> entries() {
        return mapping.entries();
    }

    @Nullable
    Node node(String key) {
        return mapping.get(key);
    }

    Place placeOf(String key) {
        Node node = mapping.get(key);
        return node == null ? mapping.place() : node.place();
    }

    /** A single value as text, null when absent; a list or mapping is a finding. */
    @Nullable
    String text(String key) {
        Node node = mapping.get(key);
        if (node == null) {
            return null;
        }
        if (node instanceof Node.Scalar scalar
                && !(scalar.plain() && scalar.text().isEmpty())) {
            return scalar.text();
        }
        boolean empty = node instanceof Node.Scalar;
        unfit(
                key,
                empty ? "is empty" : "must be a single value, not " + node.kind(),
                "Write '" + key + ": ...' on one line.");
        return null;
    }

    /** A single value that must be there. */
    @Nullable
    String required(String key, String remedy) {
        if (mapping.get(key) == null) {
            findings.add(Code.KEY_MISSING, mapping.place(), capital(what) + " lacks the key '" + key + "'.", remedy);
            return null;
        }
        return text(key);
    }

    boolean flag(String key) {
        String text = text(key);
        if (text == null || text.equals("false")) {
            return false;
        }
        if (!text.equals("true")) {
            unfit(key, "must be true or false", "Write '" + key + ": true', or leave it out.");
        }
        return text.equals("true");
    }

    /** A whole number within bounds, null when absent or unfit. */
    @Nullable
    Integer wholeNumber(String key, int least, int most) {
        String text = text(key);
        if (text == null) {
            return null;
        }
        if (text.matches("\\d{1,9}")) {
            int number = Integer.parseInt(text);
            if (number >= least && number <= most) {
                return number;
            }
        }
        unfit(key, "must be a whole number from " + least + " to " + most, "Write a number in that range.");
        return null;
    }

    Duration duration(String key, Duration otherwise, Duration most) {
        String text = text(key);
        if (text == null) {
            return otherwise;
        }
        Matcher matcher = DURATION.matcher(text);
        if (matcher.matches()) {
            Duration duration = duration(Long.parseLong(matcher.group(1)), matcher.group(2));
            if (duration.compareTo(most) <= 0) {
                return duration;
            }
        }
        unfit(key, "must be a time of at most " + most.toMinutes() + "m", "Write it as '500ms', '10s' or '2m'.");
        return otherwise;
    }

    private static Duration duration(long amount, String unit) {
        return switch (unit) {
            case "ms" -> Duration.ofMillis(amount);
            case "s" -> Duration.ofSeconds(amount);
            default -> Duration.ofMinutes(amount);
        };
    }

    /** One of an enum's constants, written in lower case; {@code otherwise} when absent or unfit. */
    <E extends Enum<E>> @Nullable E oneOf(String key, Class<E> type, @Nullable E otherwise) {
        String text = text(key);
        if (text == null) {
            return otherwise;
        }
        List<String> known = words(type);
        int index = known.indexOf(text);
        if (index >= 0) {
            return type.getEnumConstants()[index];
        }
        unfit(
                key,
                "cannot be '" + text + "'." + Nearest.hint(text, known),
                "Use one of: " + String.join(", ", known) + ".");
        return otherwise;
    }

    /** Some of an enum's constants, as {@link #oneOf} writes them, as a list or as one value; empty when absent. */
    <E extends Enum<E>> List<E> someOf(String key, Class<E> type) {
        List<E> some = new ArrayList<>();
        List<String> known = words(type);
        for (Node.Scalar scalar : texts(key)) {
            int index = known.indexOf(scalar.text());
            if (index >= 0) {
                some.add(type.getEnumConstants()[index]);
            } else {
                unfit(
                        key,
                        "cannot hold '" + scalar.text() + "'." + Nearest.hint(scalar.text(), known),
                        "Use some of: " + String.join(", ", known) + ".");
            }
        }
        return some;
    }

    private static <E extends Enum<E>> List<String> words(Class<E> type) {
        return Arrays.stream(type.getEnumConstants())
                .map(constant -> constant.name().toLowerCase(Locale.ROOT).replace('_', '-'))
                .toList();
    }

    /** Several single values, written as a list or as one value; empty when absent. */
    List<Node.Scalar> texts(String key) {
        Node node = mapping.get(key);
        return switch (node) {
            case null -> List.of();
            case Node.Scalar scalar -> List.of(scalar);
            case Node.Sequence sequence
            when sequence.items().stream().allMatch(Node.Scalar.class::isInstance) ->
                sequence.items().stream().map(Node.Scalar.class::cast).toList();
            default -> {
                unfit(key, "must be a list of single values", "Write it as '" + key + ": [one, other]'.");
                yield List.of();
            }
        };
    }

    void unfit(String key, String problem, String remedy) {
        String sentence = "The key '" + key + "' of " + what + " " + problem;
        findings.add(Code.VALUE_UNFIT, placeOf(key), sentence.endsWith("?") ? sentence : stop(sentence), remedy);
    }

    private static String stop(String sentence) {
        return sentence.endsWith(".") ? sentence : sentence + ".";
    }

    static String capital(String text) {
        return Character.toUpperCase(text.charAt(0)) + text.substring(1);
    }
}
