package tidybridge.core.reference;

import java.util.Locale;

/** What links into a page of the reference end with. */
public final class Anchors {

    private Anchors() {}

    /** {@code field-vessel.name}: nothing in it that an address would have to escape. */
    public static String of(String kind, String name) {
        return kind + "-" + name.replaceAll("[^A-Za-z0-9._-]+", "-").replaceAll("^-|-$", "");
    }

    /** Where operations of a tag begin. */
    public static String ofTag(String tag) {
        return of("tag", tag.toLowerCase(Locale.ROOT));
    }
}
