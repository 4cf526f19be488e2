package tidybridge.service.reference;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.access.OwnPages;
import tidybridge.service.capacity.BodyIntake;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.run.Refusal;

/**
 * What a form of the site's own pages sent, {@code application/x-www-form-urlencoded}.
 *
 * @param fields by name, in the order in which they came
 */
public record SiteForm(Map<String, List<String>> fields) {

    /** A form of which nothing was filled in yet. */
    static final SiteForm EMPTY = new SiteForm(Map.of());

    /** Nobody fills in more, in bytes. */
    private static final int LARGEST = 16 * 1024;

    private static final int MOST_FIELDS = 200;
    private static final String MEDIA_TYPE = "application/x-www-form-urlencoded";

    /**
     * Reads one.
     *
     * @throws Refusal for one that another page sent, or that is none
     */
    static SiteForm read(HttpServletRequest request, BytesInFlight bytes) throws Refusal, IOException {
        if (!OwnPages.sent(request)) {
            throw new Refusal(
                    ProblemKind.NOT_ALLOWED,
                    "A form must come from the service's own pages; open the page itself, and send it from there.");
        }
        String type = request.getContentType();
        if (type == null || !type.startsWith(MEDIA_TYPE)) {
            throw new Refusal(ProblemKind.BODY_UNKNOWN, "A form is sent as " + MEDIA_TYPE + ".");
        }
        try (BytesInFlight.Share share = bytes.share()) {
            return parse(new String(BodyIntake.read(request, LARGEST, share), StandardCharsets.UTF_8));
        }
    }

    private static SiteForm parse(String body) throws Refusal {
        Map<String, List<String>> fields = new HashMap<>();
        String[] parts = body.isEmpty() ? new String[0] : body.split("&", MOST_FIELDS + 1);
        if (parts.length > MOST_FIELDS) {
            throw new Refusal(ProblemKind.BAD_INPUT, "A form has at most " + MOST_FIELDS + " fields.");
        }
        try {
            for (String part : parts) {
                int equals = part.indexOf('=');
                String name = equals < 0 ? part : part.substring(0, equals);
                String value = equals < 0 ? "" : part.substring(equals + 1);
                fields.computeIfAbsent(URLDecoder.decode(name, StandardCharsets.UTF_8), any -> new ArrayList<>())
                        .add(URLDecoder.decode(value, StandardCharsets.UTF_8));
            }
        } catch (IllegalArgumentException e) {
            throw new Refusal(ProblemKind.BAD_INPUT, "A % in the form is not followed by two hexadecimal digits.");
        }
        return new SiteForm(fields);
    }

    /** The value of a field; empty when it did not come. */
    public String one(String name) {
        List<String> values = fields.get(name);
        return values == null ? "" : values.getFirst();
    }

    /** All values of a field. */
    public List<String> all(String name) {
        return fields.getOrDefault(name, List.of());
    }
}
