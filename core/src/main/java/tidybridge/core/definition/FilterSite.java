package tidybridge.core.definition;

/** Where a caller's conditions are put. */
public enum FilterSite {
    /** Into the statement where that is provably the same, around it everywhere else. */
    CHOSEN,
    /** Into the statement, behind its own conditions. */
    STATEMENT,
    /** Around the statement. */
    ANSWER
}
