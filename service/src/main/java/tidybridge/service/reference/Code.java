package tidybridge.service.reference;

import java.util.Arrays;
import java.util.List;
import tidybridge.core.sample.CodeLanguage;
import tidybridge.core.sample.SampleCall;

/**
 * A call in one language.
 *
 * @param first true for the one that is shown at first
 */
public record Code(String label, String text, boolean first) {

    /** A call in all languages. */
    static List<Code> of(SampleCall call, String origin) {
        return Arrays.stream(CodeLanguage.values())
                .map(language ->
                        new Code(language.label(), language.write(call, origin), language == CodeLanguage.CURL))
                .toList();
    }
}
