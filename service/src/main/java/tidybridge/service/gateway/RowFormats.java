package tidybridge.service.gateway;

import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.PageEnd;
import tidybridge.core.bind.Asked;
import tidybridge.core.bind.Binder;
import tidybridge.core.catalog.RowCount;
import tidybridge.core.definition.RowFormat;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.route.PathTemplate;
import tidybridge.service.run.Refusal;
import tidybridge.service.run.Rendition;

/** Which notation rows are answered in, and what HTTP says of each. */
final class RowFormats {

    private static final List<RowFormat> JSON_ALONE = List.of(RowFormat.JSON);
    private static final String ABSENT = Binder.HEADER + "=absent";

    private RowFormats() {}

    /**
     * The notation that a caller asks for in the address, or in {@code Accept}.
     *
     * @param offered empty for JSON alone
     */
    static Rendition chosen(@Nullable String accept, List<RowFormat> offered, Asked asked) throws Refusal {
        RowFormat format = asked.format();
        if (offered.isEmpty() && takesAnything(accept)) {
            return Rendition.JSON;
        }
        if (format == null) {
            format = accepted(accept, offered.isEmpty() ? JSON_ALONE : offered);
        }
        Boolean header = asked.header();
        return new Rendition(format, header == null ? accept == null || !saysAbsent(accept) : header);
    }

    private static boolean takesAnything(@Nullable String accept) {
        return accept == null || accept.isBlank() || accept.equals("*/*") || accept.equals("application/json");
    }

    private static RowFormat accepted(@Nullable String accept, List<RowFormat> offered) throws Refusal {
        if (takesAnything(accept)) {
            return RowFormat.JSON;
        }
        RowFormat best = null;
        double most = 0;
        for (RowFormat format : offered) {
            double weight = weight(accept, format);
            if (weight > most) {
                most = weight;
                best = format;
            }
        }
        if (best == null) {
            throw refusal(offered);
        }
        return best;
    }

    private static Refusal refusal(List<RowFormat> offered) {
        String types = offered.stream().map(RowFormat::mediaType).collect(Collectors.joining(", "));
        return new Refusal(
                ProblemKind.FORMAT_UNKNOWN,
                "This call answers in " + types + "; accept " + (offered.size() == 1 ? "that" : "one of them")
                        + ", or '*/*'.");
    }

    private static double weight(@Nullable String accept, RowFormat format) {
        double weight = AcceptField.weight(accept, format.mediaType());
        for (String alias : format.aliases()) {
            weight = Math.max(weight, AcceptField.named(accept, alias));
        }
        return weight;
    }

    /** {@code text/csv; header=absent} (RFC 4180, 3). */
    private static boolean saysAbsent(String accept) {
        return accept.replace(" ", "").toLowerCase(Locale.ROOT).contains(ABSENT);
    }

    /** Says what the body is. */
    static void tell(Rendition rendition, PathTemplate path, Exchange exchange) {
        RowFormat format = rendition.format();
        switch (format) {
            case JSON -> exchange.contentType(format.mediaType());
            case NDJSON, XLSX -> FileFields.write(exchange, format.mediaType(), fileName(path, format), false);
            case CSV ->
                FileFields.write(
                        exchange,
                        format.mediaType() + "; charset=utf-8; header=" + (rendition.header() ? "present" : "absent"),
                        fileName(path, format),
                        false);
        }
    }

    /** The last word of the path that is no placeholder: {@code berths.csv}. */
    private static String fileName(PathTemplate path, RowFormat format) {
        String name = "rows";
        for (String segment : path.text().split("/")) {
            if (!segment.isEmpty() && segment.indexOf('{') < 0) {
                name = segment;
            }
        }
        return name + "." + format.label();
    }

    /** The pages beside a page (RFC 8288). */
    static String links(PageEnd end) {
        String next = end.next() == null ? "" : "<" + end.next() + ">; rel=\"next\"";
        String prev = end.prev() == null ? "" : "<" + end.prev() + ">; rel=\"prev\"";
        return next + (next.isEmpty() || prev.isEmpty() ? "" : ", ") + prev;
    }

    /** Names of fields, as a list of texts (RFC 9651). */
    static String key(List<String> names) {
        StringBuilder key = new StringBuilder();
        for (String name : names) {
            key.append(key.isEmpty() ? "\"" : ", \"")
                    .append(HeaderValues.safe(name))
                    .append('"');
        }
        return key.toString();
    }

    /** What is said of a page, as a dictionary of RFC 9651: {@code rows=25, total=480, last}. */
    static String said(PageEnd end) {
        StringBuilder said = new StringBuilder("rows=").append(end.rows());
        switch (end.count()) {
            case null -> {}
            case RowCount.Exact exact -> said.append(", total=").append(exact.rows());
            case RowCount.Estimate estimate -> {
                said.append(", estimate=")
                        .append(estimate.rows())
                        .append(", least=")
                        .append(estimate.least());
                if (estimate.most() >= 0) {
                    said.append(", most=").append(estimate.most());
                }
            }
        }
        return said.append(end.isLast() ? ", last" : "").toString();
    }
}
