package tidybridge.core.definition;

/** Where a parameter comes from, in the words of OpenAPI. */
public enum In {
    PATH,
    QUERY,
    HEADER
}
