package tidybridge.core.definition;

import java.util.List;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/**
 * Reads {@code page: { limit: 25, most: 200, all: true, most-all: 2000000, all-timeout: 30m, jumps: true }}; what is not said comes from the
 * surrounding rule.
 */
final class PageReader {

    static final List<String> KEYS = List.of("limit", "most", "all", "most-all", "all-timeout", "jumps");

    private PageReader() {}

    static PageRule read(MappingReader keys, PageRule around, Findings findings) {
        Node node = keys.node("page");
        if (node == null) {
            return around;
        }
        return MappingReader.open(node, "a page rule", findings, KEYS)
                .map(page -> rule(page, around))
                .orElse(around);
    }

    private static PageRule rule(MappingReader page, PageRule around) {
        Integer most = page.wholeNumber("most", 1, PageRule.CEILING);
        Integer limit = page.wholeNumber("limit", 1, PageRule.CEILING);
        int ceiling = most == null ? Math.max(around.most(), limit == null ? 0 : limit) : most;
        if (limit != null && limit > ceiling) {
            page.unfit("limit", "is above 'most'", "Lower it, or raise 'most'.");
            return around;
        }
        return new PageRule(
                limit == null ? Math.min(around.limit(), ceiling) : limit,
                ceiling,
                mostOfAll(page, around),
                page.duration("all-timeout", around.allTimeout(), PageRule.LONGEST_ALL_TIMEOUT),
                page.node("jumps") == null ? around.jumps() : page.flag("jumps"));
    }

    private static int mostOfAll(MappingReader page, PageRule around) {
        boolean offers = page.node("all") == null ? around.offersAll() : page.flag("all");
        Integer most = page.wholeNumber("most-all", 1, PageRule.CEILING_OF_ALL);
        for (String key : List.of("most-all", "all-timeout")) {
            if (!offers && page.node(key) != null) {
                page.unfit(key, "is for whole collections", "Add 'all: true', or remove it.");
            }
        }
        if (!offers) {
            return 0;
        }
        return most != null ? most : around.offersAll() ? around.mostOfAll() : PageRule.USUAL_MOST_OF_ALL;
    }
}
