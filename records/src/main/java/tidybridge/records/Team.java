package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A client team that helps itself.
 *
 * @param title how people call it
 * @param contact the mail address that it is told something at
 * @param webhook the address that it is told something at besides; null for none
 * @param webhookKey what is sent there is signed with; null without an address
 */
public record Team(
        String name,
        String title,
        String contact,
        @Nullable String webhook,
        @Nullable String webhookKey,
        Instant createdAt) {}
