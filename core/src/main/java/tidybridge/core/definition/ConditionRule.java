package tidybridge.core.definition;

/**
 * What callers are told when the database reports a condition.
 *
 * @param match an SQLSTATE, an error number, or the name of a constraint, key or column
 */
public record ConditionRule(String match, RefusalRule refusal) {}
