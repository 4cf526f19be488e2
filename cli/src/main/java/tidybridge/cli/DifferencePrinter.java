package tidybridge.cli;

import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Help.Ansi;
import tidybridge.core.compare.DifferenceNote;
import tidybridge.core.compare.Effect;
import tidybridge.core.compare.TextComparison;
import tools.jackson.databind.JsonNode;

/** Prints differences for people: what callers meet in words, the gravest first, and below it the lines that differ. */
final class DifferencePrinter {

    private final PrintWriter out;

    DifferencePrinter(PrintWriter out) {
        this.out = out;
    }

    /** Those of an answer of the service. */
    static List<DifferenceNote> read(JsonNode array) {
        return array.valueStream()
                .map(node -> new DifferenceNote(
                        node.path("kind").asString(),
                        node.path("effect").asString(),
                        node.hasNonNull("operation") ? node.path("operation").asString() : null,
                        node.path("words").asString()))
                .toList();
    }

    /** "2 breaking, 1 safe"; "nothing" when there is none. */
    static String counted(List<DifferenceNote> differences) {
        List<String> counts = new ArrayList<>();
        for (Effect effect : Effect.values()) {
            long count = differences.stream()
                    .filter(difference -> difference.effect().equals(effect.label()))
                    .count();
            if (count > 0) {
                counts.add(count + " " + effect.label());
            }
        }
        return counts.isEmpty() ? "nothing" : String.join(", ", counts);
    }

    /** What callers meet. */
    void print(List<DifferenceNote> differences) {
        for (Effect effect : Effect.values()) {
            Map<String, List<String>> byOperation = new LinkedHashMap<>();
            differences.stream()
                    .filter(difference -> difference.effect().equals(effect.label()))
                    .forEach(difference -> byOperation
                            .computeIfAbsent(place(difference.operation()), place -> new ArrayList<>())
                            .add(difference.words()));
            byOperation.forEach((place, words) -> {
                out.println(Ansi.AUTO.string("  @|" + style(effect) + " " + padded(effect.label()) + "|@ ") + place);
                words.forEach(sentence -> out.println("            " + sentence));
            });
        }
    }

    private static String place(@Nullable String operation) {
        return operation == null ? "the module" : operation;
    }

    private static String padded(String label) {
        return String.format("%-9s", label);
    }

    private static String style(Effect effect) {
        return switch (effect) {
            case BREAKING -> "bold,red";
            case SAFE -> "bold,green";
            case INTERNAL -> "bold,blue";
        };
    }

    /** The lines that differ: those that are gone with a minus before them, those that are new with a plus. */
    void print(TextComparison text) {
        for (TextComparison.FileDifference file : text.files()) {
            String state = switch (file.state()) {
                case ADDED -> "  (new)";
                case REMOVED -> "  (gone)";
                case CHANGED -> "";
            };
            out.println();
            out.println(Ansi.AUTO.string("  @|bold " + file.file() + "|@") + state);
            if (file.pieces().isEmpty()) {
                out.println("    It is too long to be compared line by line.");
            }
            boolean first = true;
            for (TextComparison.Piece piece : file.pieces()) {
                out.print(first ? "" : Ansi.AUTO.string("@|faint       ...|@") + System.lineSeparator());
                piece.lines().forEach(this::print);
                first = false;
            }
        }
    }

    private void print(TextComparison.Line line) {
        String number = String.format("%5s ", line.now() == null ? line.before() : line.now());
        String sign = line.before() == null ? "+" : line.now() == null ? "-" : " ";
        String style = line.before() == null ? "green" : line.now() == null ? "red" : "faint";
        String text = sign + " " + line.text();
        // the text itself is no markup
        out.println(Ansi.AUTO.string("@|faint " + number + "|@") + coloured(style, text));
    }

    private static String coloured(String style, String text) {
        String mark = Ansi.AUTO.string("@|" + style + " \0|@");
        int at = mark.indexOf('\0');
        return mark.substring(0, at) + text + mark.substring(at + 1);
    }
}
