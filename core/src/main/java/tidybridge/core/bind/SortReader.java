package tidybridge.core.bind;

import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import tidybridge.core.text.Nearest;

/** Reads {@code -nightly_rate,basin}. Immutable and thread-safe. */
final class SortReader {

    /** How many fields one request may sort by: each makes the statement longer, and a form of its own. */
    static final int MOST = 10;

    private final Map<String, Long> fields;
    private final long most;

    SortReader(Sortable sortable) {
        this.fields = sortable.lengths();
        this.most = sortable.most();
    }

    /** Tells each mistake. */
    void check(String text, Mistakes mistakes) {
        Set<String> seen = new HashSet<>();
        long length = 0;
        String[] parts = text.split(",", -1);
        if (parts.length > MOST) {
            mistakes.add(Binder.SORT, "query", "names " + parts.length + " fields, and " + MOST + " can be");
            return;
        }
        for (String part : parts) {
            String name = part.startsWith("-") ? part.substring(1) : part;
            Long own = fields.get(name);
            if (own == null) {
                unknown(name, mistakes);
                return;
            }
            if (!seen.add(name)) {
                mistakes.add(Binder.SORT, "query", "names '" + name + "' twice");
                return;
            }
            length += own;
        }
        if (length > most) {
            mistakes.add(
                    Binder.SORT,
                    "query",
                    "sorts by texts that may be " + length + " characters long together, and " + most + " can be");
        }
    }

    private void unknown(String name, Mistakes mistakes) {
        String shown = Mistakes.shown(name);
        mistakes.add(
                Binder.SORT,
                "query",
                (name.isEmpty() ? "has a part without a name." : "cannot sort by '" + shown + "'.")
                        + Nearest.hint(shown, fields.keySet()) + " Write some of: "
                        + String.join(", ", fields.keySet())
                        + ", with commas between them and '-' before those that descend.");
    }
}
