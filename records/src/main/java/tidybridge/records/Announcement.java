package tidybridge.records;

import java.time.Instant;

/**
 * What an owner tells those who call a module.
 *
 * @param title in one line
 * @param by who said it; told to nobody outside
 */
public record Announcement(long id, String module, String title, String words, String by, Instant at) {}
