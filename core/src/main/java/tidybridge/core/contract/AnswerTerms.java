package tidybridge.core.contract;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.RowFormat;

/**
 * What is promised of the answer that is hoped for.
 *
 * @param fields of a row, in order; none where no row is shown
 * @param choices what callers may name to get only these fields; empty when they cannot choose
 * @param formats the notations of rows, JSON among them; empty when there is JSON alone
 * @param headers fields of the header that are filled from the row
 * @param tag true when it says its entity tag
 * @param modified true when it says when it was changed last
 * @param fresh for how many seconds it may be used again without asking; null for not at all
 * @param mediaType of a file; null for one that says it by itself
 * @param results result sets of a procedure, beside the fields
 */
public record AnswerTerms(
        AnswerKind kind,
        int status,
        List<FieldTerms> fields,
        List<String> choices,
        List<RowFormat> formats,
        List<String> headers,
        boolean tag,
        boolean modified,
        @Nullable Long fresh,
        @Nullable String mediaType,
        List<ResultTerms> results) {
    public AnswerTerms {
        fields = List.copyOf(fields);
        choices = List.copyOf(choices);
        formats = List.copyOf(formats);
        headers = List.copyOf(headers);
        results = List.copyOf(results);
    }

    /**
     * A result set of a procedure.
     *
     * @param single true when it has one row at most, and is answered as an object
     */
    public record ResultTerms(String name, boolean single) {}

    /** True when callers can have rows without the names of their fields before each value. */
    public boolean offersTables() {
        return formats.stream().anyMatch(RowFormat::isTable);
    }
}
