package tidybridge.core.definition;

/**
 * What callers are told when the database reports a condition.
 *
 * @param match an SQLSTATE, an error number, or the name of a constraint, key or column
 * @param inherited true when it is written for the whole module, and so for operations that never meet it
 */
public record ConditionRule(String match, RefusalRule refusal, boolean inherited) {}
