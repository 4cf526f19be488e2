package tidybridge.core.definition;

import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/**
 * The forms of rows that callers may ask for.
 *
 * @param chosenFields whether callers may choose fields
 * @param formats what rows are answered in beside JSON, in the order of {@link RowFormat}
 */
public record OfferRule(boolean chosenFields, List<RowFormat> formats) {

    /** JSON with all of its fields. */
    public static final OfferRule NONE = new OfferRule(false, List.of());

    static final List<String> KEYS = List.of("chosen-fields", "formats");

    public OfferRule {
        formats = List.copyOf(formats);
    }

    /** Reads {@code chosen-fields: true} and {@code formats: [csv, ndjson]}; what is not said comes from the surrounding rule. */
    static OfferRule read(MappingReader keys, OfferRule around) {
        Set<RowFormat> formats = EnumSet.noneOf(RowFormat.class);
        formats.addAll(keys.node("formats") == null ? around.formats() : keys.someOf("formats", RowFormat.class));
        // it is always there
        formats.remove(RowFormat.JSON);
        boolean chosen = keys.node("chosen-fields") == null ? around.chosenFields() : keys.flag("chosen-fields");
        return new OfferRule(chosen, List.copyOf(formats));
    }

    /** The rule of an answer that has none of these forms. */
    static OfferRule refused(MappingReader keys) {
        for (String key : KEYS) {
            if (keys.node(key) != null) {
                keys.unfit(key, "is for rows", "Remove it, or write 'answer: row'.");
            }
        }
        return NONE;
    }
}
