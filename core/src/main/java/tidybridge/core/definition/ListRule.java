package tidybridge.core.definition;

/**
 * What a list may hold.
 *
 * @param type of each item
 * @param constraints of each item
 * @param minItems how many at least
 * @param maxItems how many at most
 * @param unique true when no two may be equal
 * @param commas true when a query has several items in one value, with commas between them; a comma inside an item has a backslash before it
 */
public record ListRule(
        ParameterType type, Constraints constraints, int minItems, int maxItems, boolean unique, boolean commas) {

    /** One whose items a query sends each by its own. */
    public ListRule(ParameterType type, Constraints constraints, int minItems, int maxItems, boolean unique) {
        this(type, constraints, minItems, maxItems, unique, false);
    }

    /** How many items a list may have when the text does not say. */
    public static final int DEFAULT_MOST = 100;

    /** The most items any list may be allowed. */
    public static final int CEILING = 1_000;
}
