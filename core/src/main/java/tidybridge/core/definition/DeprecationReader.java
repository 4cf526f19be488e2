package tidybridge.core.definition;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads {@code deprecated}: true, the day of the end, or both days and what takes its place. */
final class DeprecationReader {

    static final List<String> KEYS = List.of("since", "ends", "successor");
    private static final String KEY = "deprecated";
    private static final String DAY = "Write the day, as in '2031-12-31'.";

    /** What is deprecated, by how its successor is named. */
    enum Of {
        MODULE("[a-z][a-z0-9-]{0,62}/v\\d{1,5}", "Name it as 'moorings/v2'."),
        OPERATION("([a-z][a-z0-9-]{0,62}/v\\d{1,5})?/\\S{0,250}", "Name it as '/stays' or 'moorings/v2/stays'."),
        NAME("\\S{1,120}", "Name the one that is used in its place.");

        private final String pattern;
        private final String remedy;

        Of(String pattern, String remedy) {
            this.pattern = pattern;
            this.remedy = remedy;
        }
    }

    private final MappingReader keys;
    private final Findings findings;

    DeprecationReader(MappingReader keys, Findings findings) {
        this.keys = keys;
        this.findings = findings;
    }

    /** Null when the text deprecates nothing. */
    @Nullable
    Deprecation read(Of what) {
        Node node = keys.node(KEY);
        if (node == null) {
            return null;
        }
        if (node instanceof Node.Mapping) {
            return MappingReader.open(node, "a deprecation", findings, KEYS)
                    .map(days -> whole(days, what))
                    .orElse(null);
        }
        String text = keys.text(KEY);
        if (text == null || text.equals("false")) {
            return null;
        }
        return text.equals("true")
                ? Deprecation.UNDATED
                : new Deprecation(
                        null,
                        day(keys, KEY, "must be true or a day", "Write the day it ends, as 'deprecated: 2031-12-31'."),
                        null);
    }

    private static Deprecation whole(MappingReader days, Of what) {
        LocalDate since = day(days, "since", "must be a day", DAY);
        LocalDate ends = day(days, "ends", "must be a day", DAY);
        if (since != null && ends != null && !since.isBefore(ends)) {
            days.unfit("ends", "must come after 'since'", "Give callers some time.");
        }
        String successor = days.text("successor");
        if (successor != null && !successor.matches(what.pattern)) {
            days.unfit("successor", "is nothing that can take its place", what.remedy);
        }
        return new Deprecation(since, ends, successor);
    }

    private static @Nullable LocalDate day(MappingReader keys, String key, String problem, String remedy) {
        String text = keys.text(key);
        if (text == null) {
            return null;
        }
        try {
            return LocalDate.parse(text);
        } catch (DateTimeException e) {
            keys.unfit(key, problem, remedy);
            return null;
        }
    }
}
