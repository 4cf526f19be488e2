package tidybridge.service.gateway;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Reads the Accept field (RFC 9110, 12.5.1). */
final class AcceptField {

    /** How exactly a range names a media type. */
    private static final int WHOLE = 2;

    private static final int ITS_TYPE = 1;
    private static final int ANYTHING = 0;
    private static final int NOT = -1;

    private AcceptField() {}

    /** True when the caller takes the media type; an absent or empty field takes everything. */
    static boolean takes(@Nullable String accept, String mediaType) {
        return accept == null
                || accept.isBlank()
                || accept.equals("*/*")
                || accept.equals(mediaType)
                || weight(accept, mediaType) > 0;
    }

    /** How much the caller wants the media type, from 0 for not at all to 1; the range that names it best decides. */
    static double weight(@Nullable String accept, String mediaType) {
        return weight(accept, mediaType, ANYTHING);
    }

    /** The same where ranges such as {@code text/*} do not count. */
    static double named(@Nullable String accept, String mediaType) {
        return weight(accept, mediaType, WHOLE);
    }

    private static double weight(@Nullable String accept, String mediaType, int least) {
        if (accept == null) {
            return 1;
        }
        String type = mediaType.substring(0, mediaType.indexOf('/') + 1);
        int precision = least - 1;
        double weight = 0;
        for (String range : accept.split(",")) {
            String[] parts = range.strip().toLowerCase(Locale.ROOT).split(";", -1);
            int match = precision(parts[0].strip(), mediaType, type);
            if (match > precision) {
                precision = match;
                weight = quality(parts);
            } else if (match == precision && match >= least) {
                weight = Math.max(weight, quality(parts));
            }
        }
        return weight;
    }

    private static int precision(String range, String mediaType, String type) {
        if (range.equals(mediaType)) {
            return WHOLE;
        }
        if (range.equals(type + "*")) {
            return ITS_TYPE;
        }
        return range.equals("*/*") ? ANYTHING : NOT;
    }

    /** What a range's {@code q} says; 1 when it says nothing that can be read. */
    private static double quality(String[] parts) {
        for (int i = 1; i < parts.length; i++) {
            String part = parts[i].strip();
            if (part.startsWith("q=")) {
                return quality(part.substring(2));
            }
        }
        return 1;
    }

    /** Up to three digits behind the point. */
    private static double quality(String text) {
        if (!text.startsWith("0") && !text.startsWith("1") || text.length() > 5) {
            return 1;
        }
        try {
            return Math.clamp(Double.parseDouble(text), 0, 1);
        } catch (NumberFormatException e) {
            return 1;
        }
    }
}
