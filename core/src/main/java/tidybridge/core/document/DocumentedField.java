package tidybridge.core.document;

/**
 * A field of a row, or of a body.
 *
 * @param name with dots for nested objects
 */
public record DocumentedField(String name, DocumentedValue value) {}
