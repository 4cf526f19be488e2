package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;

/**
 * An immutable, published version of a module.
 *
 * @param hash of the text, SHA-256 in hexadecimal
 * @param contractHash of what it promises, SHA-256 in hexadecimal; null for one that was published before contracts were kept
 */
public record Release(
        long id,
        String module,
        Version version,
        ModuleText text,
        String hash,
        String publishedBy,
        Instant publishedAt,
        @Nullable String contractHash) {}
