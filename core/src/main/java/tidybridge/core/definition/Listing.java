package tidybridge.core.definition;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * How a module is found by those who do not call it yet.
 *
 * @param owner who answers for it; null when nobody is named
 * @param contact where the owner is reached: an address for mail, or one that begins with {@code https://}; null for none
 * @param terms where the terms of use are read, an address that begins with {@code https://}; null for none
 * @param tags words that it is found by
 * @param audience who finds it
 */
public record Listing(
        @Nullable String owner,
        @Nullable String contact,
        @Nullable String terms,
        List<String> tags,
        Audience audience) {

    /** What counts where a module says nothing. */
    public static final Listing USUAL = new Listing(null, null, null, List.of(), Audience.CALLERS);

    public Listing {
        tags = List.copyOf(tags);
    }

    /** Who finds a module in the directory, and reads its reference before they may call it. */
    public enum Audience {
        /** It is not in the directory; those who may call it read its reference where they were told it is. */
        NOBODY,
        /** Those who may call something of it. */
        CALLERS,
        /** Whoever is known to the service, so that they can ask for a privilege. */
        SIGNED_IN,
        EVERYBODY;

        /** The word for it in texts. */
        public String label() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }
}
