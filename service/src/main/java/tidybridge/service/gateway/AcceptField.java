package tidybridge.service.gateway;

import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Reads the Accept field (RFC 9110, 12.5.1) as far as a service with one format needs it. */
final class AcceptField {

    /** A weight of nothing. */
    private static final Pattern REFUSED = Pattern.compile("q=0(\\.0{0,3})?");

    private AcceptField() {}

    /** True when the caller takes the media type; an absent or empty field takes everything. */
    static boolean takes(@Nullable String accept, String mediaType) {
        if (accept == null || accept.isBlank() || accept.equals("*/*") || accept.equals(mediaType)) {
            return true;
        }
        String type = mediaType.substring(0, mediaType.indexOf('/') + 1);
        int precision = -1;
        boolean taken = false;
        for (String range : accept.split(",")) {
            String[] parts = range.strip().toLowerCase(Locale.ROOT).split(";", -1);
            int match = precision(parts[0].strip(), mediaType, type);
            if (match > precision) {
                precision = match;
                taken = !isZero(parts);
            } else if (match == precision && match >= 0) {
                taken |= !isZero(parts);
            }
        }
        return taken;
    }

    /** How exactly a range names the media type: 2 whole, 1 its type, 0 anything, -1 not at all. */
    private static int precision(String range, String mediaType, String type) {
        if (range.equals(mediaType)) {
            return 2;
        }
        if (range.equals(type + "*")) {
            return 1;
        }
        return range.equals("*/*") ? 0 : -1;
    }

    private static boolean isZero(String[] parts) {
        for (int i = 1; i < parts.length; i++) {
            if (REFUSED.matcher(parts[i].strip()).matches()) {
                return true;
            }
        }
        return false;
    }
}
