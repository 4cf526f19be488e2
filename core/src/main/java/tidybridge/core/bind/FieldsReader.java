package tidybridge.core.bind;

import java.util.HashSet;
import java.util.Set;
import tidybridge.core.text.Nearest;

/** Reads {@code id,basin,berth.berth_no}. Immutable and thread-safe. */
final class FieldsReader {

    private final Set<String> fields;

    /** @param fields what can be named, objects that hold fields among them */
    FieldsReader(Set<String> fields) {
        this.fields = fields;
    }

    /** Tells the first mistake. */
    void check(String text, Mistakes mistakes) {
        if (text.isEmpty()) {
            mistakes.add(Binder.FIELDS, "query", "names no field." + list());
            return;
        }
        Set<String> seen = new HashSet<>();
        for (String name : text.split(",", -1)) {
            String shown = Mistakes.shown(name);
            if (!fields.contains(name)) {
                String fault = name.isEmpty()
                        ? "has a part without a name."
                        : "names no field of this answer with '" + shown + "'.";
                mistakes.add(Binder.FIELDS, "query", fault + Nearest.hint(shown, fields) + list());
                return;
            }
            if (!seen.add(name)) {
                mistakes.add(Binder.FIELDS, "query", "names '" + shown + "' twice");
                return;
            }
        }
    }

    private String list() {
        return " Write some of: " + String.join(", ", fields) + ", with commas between them.";
    }
}
