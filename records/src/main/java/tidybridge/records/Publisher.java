package tidybridge.records;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Who changes what is live.
 *
 * @param address where the request came from; null for the service itself
 * @param at cut to milliseconds where it is kept
 */
public record Publisher(String who, @Nullable String address, Instant at) {}
