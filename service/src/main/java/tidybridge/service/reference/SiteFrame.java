package tidybridge.service.reference;

import org.jspecify.annotations.Nullable;
import tidybridge.service.access.Visitor;

/**
 * What stands around each page.
 *
 * @param title of the page, without the service's name
 * @param about a sentence for search engines; empty for none
 * @param who is signed in; null for nobody
 * @param question what is in the search field
 */
public record SiteFrame(
        String title, String about, @Nullable String who, String question) {

    /** The frame of a page for somebody. */
    static SiteFrame of(String title, @Nullable String about, Visitor visitor) {
        return new SiteFrame(title, about == null ? "" : about, visitor.caller().name(), "");
    }

    /** The same with something in the search field. */
    SiteFrame asking(String asked) {
        return new SiteFrame(title, about, who, asked);
    }
}
