package tidybridge.core.document;

import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.AnswerKind;

/**
 * The answer that is hoped for.
 *
 * @param status of HTTP
 * @param fields of the answer, or of each of its rows
 * @param mediaType of a file; null for everything else
 */
public record DocumentedAnswer(
        AnswerKind kind,
        int status,
        List<DocumentedField> fields,
        @Nullable String mediaType) {
    public DocumentedAnswer {
        fields = List.copyOf(fields);
    }
}
