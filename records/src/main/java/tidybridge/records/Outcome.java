package tidybridge.records;

/**
 * An answer that was given to a request with an idempotency key.
 *
 * @param headers header fields as JSON text, the content type among them
 */
public record Outcome(int status, String headers, byte[] body) {}
