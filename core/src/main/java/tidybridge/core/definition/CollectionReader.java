package tidybridge.core.definition;

import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads what orders a collection and what its callers may ask of it: {@code order}, {@code page}, {@code sort} and their like. */
final class CollectionReader {

    private static final List<String> OF_COLLECTIONS =
            List.of("page", "order", "sort", "search", "filter", "filter-at", "total", "total-timeout");
    private static final Pattern DIRECTION = Pattern.compile("(?i)(?:^|\\s+)(asc|desc)$");

    private final MappingReader keys;
    private final Findings findings;

    CollectionReader(MappingReader keys, Findings findings) {
        this.keys = keys;
        this.findings = findings;
    }

    /**
     * The rules of an operation.
     *
     * @param isCollection false for an operation that can have none of them
     */
    CollectionRules read(PageRule usual, boolean isCollection) {
        PageRule page = PageReader.read(keys, usual, findings);
        for (String key : OF_COLLECTIONS) {
            if (!isCollection && keys.node(key) != null) {
                keys.unfit(key, "is for collections only", "Remove it, or write 'answer: rows'.");
            }
        }
        return new CollectionRules(
                keys.texts("order").stream().map(this::orderKey).toList(),
                isCollection ? page : null,
                keys.texts("sort").stream()
                        .map(scalar -> new SortRule(scalar.text(), scalar.place()))
                        .toList(),
                search(),
                new FilterReader(findings).read(keys),
                filterSite(),
                totals(),
                keys.duration(
                        "total-timeout", CollectionRules.USUAL_TOTAL_TIMEOUT, OperationDefinition.LONGEST_TIMEOUT));
    }

    private @Nullable SearchRule search() {
        List<String> columns =
                keys.texts("search").stream().map(Node.Scalar::text).toList();
        return columns.isEmpty() ? null : new SearchRule(columns, keys.placeOf("search"));
    }

    private FilterSite filterSite() {
        String text = keys.text("filter-at");
        if (text == null) {
            return FilterSite.CHOSEN;
        }
        if (text.equals("statement")) {
            return FilterSite.STATEMENT;
        }
        if (!text.equals("answer")) {
            keys.unfit(
                    "filter-at",
                    "cannot be '" + text + "'",
                    "Write 'statement' or 'answer', or leave it out to have the place chosen.");
        }
        return FilterSite.ANSWER;
    }

    private Set<Total> totals() {
        Set<Total> totals = EnumSet.noneOf(Total.class);
        totals.addAll(keys.someOf("total", Total.class));
        if (keys.node("total-timeout") != null && !totals.contains(Total.EXACT)) {
            keys.unfit("total-timeout", "is for exact totals", "Remove it, or write 'total: exact'.");
        }
        return totals;
    }

    /** A field, which may have spaces in its name, and perhaps the direction behind it. */
    private OrderKey orderKey(Node.Scalar scalar) {
        String text = scalar.text().strip();
        Matcher direction = DIRECTION.matcher(text);
        boolean directed = direction.find();
        String field = directed ? text.substring(0, direction.start()) : text;
        if (field.isEmpty()) {
            findings.add(
                    Code.VALUE_UNFIT,
                    scalar.place(),
                    "An order names one field, with 'desc' behind it for the reverse.",
                    "Write it as 'order: [basin, berth_no]' or 'order: [passed_at desc, id desc]'.");
        }
        return new OrderKey(field, directed && direction.group(1).equalsIgnoreCase("desc"), scalar.place());
    }
}
