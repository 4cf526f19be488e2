package tidybridge.core.bind;

import java.util.List;

/** Where a page is asked to begin. */
public sealed interface PageStart {

    /** At the first row. */
    PageStart BEGINNING = new Beginning();

    /** At the first row. */
    record Beginning() implements PageStart {}

    /** Behind a position that a page told. */
    record After(String position) implements PageStart {}

    /** So that it ends before a position that a page told. */
    record Before(String position) implements PageStart {}

    /**
     * At the first row whose order values are these, or behind where it would stand.
     *
     * @param key values of the first fields of the order, as callers write them
     */
    record From(List<String> key) implements PageStart {
        public From {
            key = List.copyOf(key);
        }
    }

    /** So that it ends with the last row. */
    record Last() implements PageStart {}
}
