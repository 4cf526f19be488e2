package tidybridge.core.definition;

import java.util.Locale;

/** How the rows of a collection are counted. */
public enum Total {
    /** By a statement that reads them. */
    EXACT,
    /** By what the database expects, without reading them. */
    ESTIMATE;

    /** What it is called in addresses and definitions. */
    public String label() {
        return name().toLowerCase(Locale.ROOT);
    }
}
