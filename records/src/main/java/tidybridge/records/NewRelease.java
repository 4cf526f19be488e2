package tidybridge.records;

import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;

/**
 * A compiled module about to be published.
 *
 * @param kept what is kept beside its text
 * @param asksReview whether its text asks for a second person
 * @param review the approval without which it may not be published; null where it needs none
 * @param replaces the release that was live under its major version when it was looked at; null for none
 */
public record NewRelease(
        String module,
        Version version,
        String source,
        ModuleText text,
        KeptContract kept,
        boolean asksReview,
        @Nullable Long review,
        @Nullable Long replaces) {

    /** One that needs nobody's approval. */
    public NewRelease(
            String module,
            Version version,
            String source,
            ModuleText text,
            KeptContract kept,
            @Nullable Long replaces) {
        this(module, version, source, text, kept, false, null, replaces);
    }
}
