package tidybridge.core.answer;

import tools.jackson.core.io.SerializedString;

/** The name of a field, made ready once for every row that will bear it. Immutable and thread-safe. */
public final class FieldName {

    private final SerializedString json;

    public FieldName(String text) {
        this.json = new SerializedString(text);
    }

    /** As callers write it. */
    public String text() {
        return json.getValue();
    }

    SerializedString json() {
        return json;
    }
}
