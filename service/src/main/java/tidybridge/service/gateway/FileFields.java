package tidybridge.service.gateway;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** The header fields of a file (RFC 6266, RFC 8187). What browsers could run is never shown in place. */
final class FileFields {

    private static final Pattern SHOWN_IN_PLACE =
            Pattern.compile("image/(png|jpeg|gif|webp|avif)|text/plain.*|application/pdf");
    private static final int LONGEST_NAME = 200;

    private FileFields() {}

    /**
     * Says what a file is.
     *
     * @param name null for none
     * @param inline true when its definition lets browsers show it
     */
    static void write(Exchange exchange, String mediaType, @Nullable String name, boolean inline) {
        exchange.contentType(mediaType);
        exchange.header("X-Content-Type-Options", "nosniff");
        boolean shown = inline && SHOWN_IN_PLACE.matcher(mediaType).matches();
        exchange.header("Content-Disposition", (shown ? "inline" : "attachment") + named(name));
    }

    /** A plain name for everybody, and the real one for those who read RFC 8187; paths are cut off. */
    private static String named(@Nullable String name) {
        if (name == null || name.isBlank()) {
            return "";
        }
        String base = name.substring(Math.max(name.lastIndexOf('/'), name.lastIndexOf('\\')) + 1);
        String shortened = base.length() <= LONGEST_NAME ? base : base.substring(base.length() - LONGEST_NAME);
        String plain = shortened.replaceAll("[^A-Za-z0-9._ -]", "_");
        String encoded = URLEncoder.encode(shortened, StandardCharsets.UTF_8)
                .replace("+", "%20")
                .replace("*", "%2A");
        return "; filename=\"" + plain + "\"; filename*=UTF-8''" + encoded;
    }
}
