package tidybridge.records;

import java.time.Instant;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;

/**
 * An immutable, published version of a module.
 *
 * @param hash of the text, SHA-256 in hexadecimal
 */
public record Release(
        long id,
        String module,
        Version version,
        ModuleText text,
        String hash,
        String publishedBy,
        Instant publishedAt) {}
