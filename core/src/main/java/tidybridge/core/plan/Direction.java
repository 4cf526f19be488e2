package tidybridge.core.plan;

/** Which way a page is read from where it begins; its rows are answered in the order all the same. */
public enum Direction {
    FORWARD,
    BACKWARD
}
