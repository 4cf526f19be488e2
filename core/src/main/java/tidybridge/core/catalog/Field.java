package tidybridge.core.catalog;

/**
 * A named part of an answer.
 *
 * @param nullable true when the database cannot promise a value
 */
public record Field(String name, FieldType type, boolean nullable) {}
