package tidybridge.bench;

import java.util.ArrayList;
import java.util.List;

/** Prints what was measured: each line of the table as soon as it is known, or all of them as JSON at the end. */
final class Report {

    private static final String LINE = "%-40s %10s %10s %10s %8s %8s  %s%n";

    private final boolean json;
    private final List<Result> results = new ArrayList<>();

    Report(boolean json) {
        this.json = json;
    }

    /** Says how far it is. */
    void say(String line) {
        System.err.println(line);
    }

    void add(Result result) {
        results.add(result);
        if (json) {
            return;
        }
        if (results.size() == 1) {
            System.out.printf(LINE, "per second", "service", "peer", "floor", "x peer", "x floor", "goal");
        }
        System.out.printf(
                LINE,
                result.what(),
                "%.1f".formatted(result.service()),
                shown(result.peer(), "%.1f"),
                shown(result.floor(), "%.1f"),
                shown(result.toPeer(), "%.2f"),
                shown(result.toFloor(), "%.2f"),
                result.goal());
    }

    private static String shown(double value, String form) {
        return value == 0 ? "" : form.formatted(value);
    }

    /** Ends the report. */
    void end() {
        if (json) {
            List<String> lines = results.stream().map(Report::json).toList();
            System.out.println("[" + String.join(",\n ", lines) + "]");
        }
    }

    private static String json(Result result) {
        return "{\"what\": \"%s\", \"service\": %.2f, \"peer\": %.2f, \"floor\": %.2f, \"toPeer\": %.2f, \"toFloor\": %.2f}"
                .formatted(
                        result.what(),
                        result.service(),
                        result.peer(),
                        result.floor(),
                        result.toPeer(),
                        result.toFloor());
    }
}
