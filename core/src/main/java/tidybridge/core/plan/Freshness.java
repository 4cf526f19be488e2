package tidybridge.core.plan;

import java.time.Duration;

/**
 * How long an answer may be used again without asking (RFC 9111, 4.2).
 *
 * @param shared true for what is the same for everybody who may call from anywhere, so that caches between may keep it
 */
public record Freshness(Duration time, boolean shared) {}
