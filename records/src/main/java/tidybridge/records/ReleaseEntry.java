package tidybridge.records;

import java.time.Instant;
import tidybridge.core.definition.Version;

/**
 * A release as a list of many shows it, without its text.
 *
 * @param hash of the text, SHA-256 in hexadecimal
 */
public record ReleaseEntry(
        long id, String module, Version version, String hash, String publishedBy, Instant publishedAt) {}
