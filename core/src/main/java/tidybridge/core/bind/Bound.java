package tidybridge.core.bind;

import org.jspecify.annotations.Nullable;

/**
 * Checked, typed values of one request, owned by that request.
 *
 * @param values one for each parameter in the order of the definition; null when absent. Types: String, Long, BigDecimal,
 *     Boolean, LocalDate, LocalTime, LocalDateTime, OffsetDateTime
 * @param limit rows asked for; 0 when the operation is no collection
 * @param after where to continue, null for the first page
 */
public record Bound(
        @Nullable Object[] values, int limit, @Nullable String after) {}
