package tidybridge.core.definition;

import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Node;

/** Reads what an answer says beside its body: {@code status}, {@code location}, {@code reply}, {@code tag}, {@code modified} and {@code fresh}. */
final class ReplyReader {

    static final List<String> REPLY_KEYS = List.of("status", "message", "headers");

    private static final Duration LONGEST_FRESH = Duration.ofMinutes(24 * 60);

    private static final Set<Integer> STATUSES = Set.of(200, 201, 202, 204);

    /** What the service or HTTP itself says. */
    private static final Set<String> RESERVED = Set.of(
            "connection",
            "content-length",
            "content-type",
            "date",
            "etag",
            "last-modified",
            "location",
            "set-cookie",
            "transfer-encoding",
            "www-authenticate");

    private final MappingReader keys;
    private final Findings findings;

    ReplyReader(MappingReader keys, Findings findings) {
        this.keys = keys;
        this.findings = findings;
    }

    ReplyRule read() {
        Integer status = keys.wholeNumber("status", 200, 204);
        if (status != null && !STATUSES.contains(status)) {
            keys.unfit("status", "cannot be " + status, "Use 200, 201, 202 or 204.");
        }
        String location = keys.text("location");
        if (location != null && !location.startsWith("/")) {
            keys.unfit("location", "must be a path inside the module", "Write it as 'location: /bookings/{key}'.");
        }
        Node reply = keys.node("reply");
        MappingReader from = reply == null
                ? null
                : MappingReader.open(reply, "a reply", findings, REPLY_KEYS).orElse(null);
        String tag = tag();
        return new ReplyRule(
                keys.place(),
                status,
                location,
                from == null ? null : from.text("status"),
                from == null ? null : from.text("message"),
                from == null ? Map.of() : headers(from),
                keys.node("tag") != null,
                tag,
                keys.text("modified"),
                keys.node("fresh") == null ? null : keys.duration("fresh", Duration.ofSeconds(1), LONGEST_FRESH));
    }

    /** {@code tag: representation}, or {@code tag: { column: version }}. */
    private @Nullable String tag() {
        Node node = keys.node("tag");
        if (node instanceof Node.Mapping) {
            return MappingReader.open(node, "a tag", findings, List.of("column"))
                    .map(tag -> tag.required("column", "Write it as 'tag: { column: version }'."))
                    .orElse(null);
        }
        if (node != null && !"representation".equals(keys.text("tag"))) {
            keys.unfit(
                    "tag",
                    "must be the representation or a column",
                    "Write 'tag: representation', or 'tag: { column: version }'.");
        }
        return null;
    }

    private Map<String, String> headers(MappingReader from) {
        Map<String, String> headers = new LinkedHashMap<>();
        Node node = from.node("headers");
        if (node != null) {
            MappingReader.openAny(node, "headers", findings).ifPresent(names -> {
                for (Node.Entry entry : names.entries()) {
                    String column = names.text(entry.key());
                    if (!entry.key().matches("[A-Za-z][A-Za-z0-9-]{0,63}")
                            || RESERVED.contains(entry.key().toLowerCase(Locale.ROOT))) {
                        names.unfit(
                                entry.key(), "is no header field of an operation's own", "Choose another name for it.");
                    } else if (column != null) {
                        headers.put(entry.key(), column);
                    }
                }
            });
        }
        return headers;
    }
}
