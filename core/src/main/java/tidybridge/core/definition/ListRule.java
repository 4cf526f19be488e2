package tidybridge.core.definition;

/**
 * What a list may hold.
 *
 * @param type of each item
 * @param constraints of each item
 * @param minItems how many at least
 * @param maxItems how many at most
 * @param unique true when no two may be equal
 */
public record ListRule(ParameterType type, Constraints constraints, int minItems, int maxItems, boolean unique) {

    /** How many items a list may have when the text does not say. */
    public static final int DEFAULT_MOST = 100;

    /** The most items any list may be allowed. */
    public static final int CEILING = 1_000;
}
