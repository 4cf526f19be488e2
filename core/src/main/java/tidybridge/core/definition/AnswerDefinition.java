package tidybridge.core.definition;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.text.Place;

/**
 * How an answer is shaped.
 *
 * @param shown the columns that are answered, in this order; empty for all of them, as the statement has them
 * @param file which columns hold a file; null for every answer but {@link AnswerKind#FILE}
 * @param offers the forms that callers may ask for
 * @param promise what somebody was told of it before; null for nothing
 */
public record AnswerDefinition(
        AnswerKind kind,
        Place place,
        NameStyle names,
        List<FieldRule> rules,
        List<Shown> shown,
        @Nullable FileRule file,
        OfferRule offers,
        @Nullable PromiseRule promise) {

    /** A column to be answered, and where the text says so. */
    public record Shown(String column, Place place) {}

    /**
     * The columns of a file.
     *
     * @param content the bytes
     * @param type the media type; a column's name, or a media type that all of them have
     * @param name the column with the file's name; null for files without
     * @param inline true for a file that browsers may show in place rather than save
     */
    public record FileRule(
            Place place,
            String content,
            String type,
            @Nullable String name,
            boolean inline) {
        /** True when {@link #type} is a media type rather than a column. */
        public boolean typeIsFixed() {
            return type.indexOf('/') >= 0;
        }
    }

    /** The same without what was told of it before. */
    AnswerDefinition withoutPromise() {
        return new AnswerDefinition(kind, place, names, rules, shown, file, offers, null);
    }

    public AnswerDefinition {
        rules = List.copyOf(rules);
        shown = List.copyOf(shown);
    }
}
