package tidybridge.core.plan;

import java.util.List;
import tidybridge.core.definition.RowFormat;

/**
 * The forms in which rows are answered.
 *
 * @param choices the fields that callers may choose
 * @param formats the notations, JSON among them; empty when there is JSON alone
 */
public record RowForms(Choices choices, List<RowFormat> formats) {

    /** JSON as a whole. */
    static final RowForms NONE = new RowForms(new Choices(List.of(), List.of(), false), List.of());

    public RowForms {
        formats = List.copyOf(formats);
    }
}
