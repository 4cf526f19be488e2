package tidybridge.core.definition;

import java.util.List;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads {@code page: { limit: 25, most: 200 }}; what is not said comes from the surrounding rule. */
final class PageReader {

    private PageReader() {}

    static PageRule read(MappingReader keys, PageRule around, Findings findings) {
        Node node = keys.node("page");
        if (node == null) {
            return around;
        }
        return MappingReader.open(node, "a page rule", findings, List.of("limit", "most"))
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
        return new PageRule(limit == null ? Math.min(around.limit(), ceiling) : limit, ceiling);
    }
}
