package tidybridge.service.gateway;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.Row;
import tidybridge.core.plan.FilePlan;

/** The header fields of a file (RFC 6266, RFC 8187). What browsers could run is never shown in place. */
final class FileAnswer {

    private static final Pattern MEDIA_TYPE =
            Pattern.compile("[A-Za-z0-9!#$&^_.+-]{1,80}/[A-Za-z0-9!#$&^_.+-]{1,80}(; ?charset=[A-Za-z0-9-]{1,40})?");
    private static final Pattern SHOWN_IN_PLACE =
            Pattern.compile("image/(png|jpeg|gif|webp|avif)|text/plain.*|application/pdf");
    private static final String UNKNOWN_TYPE = "application/octet-stream";
    private static final int LONGEST_NAME = 200;

    private FileAnswer() {}

    static void head(Row row, FilePlan file, Exchange exchange) {
        String type = mediaType(row, file);
        exchange.contentType(type);
        exchange.header("X-Content-Type-Options", "nosniff");
        boolean inline = file.inline() && SHOWN_IN_PLACE.matcher(type).matches();
        String name = file.name() < 0 ? null : row.text(file.name());
        exchange.header("Content-Disposition", (inline ? "inline" : "attachment") + named(name));
    }

    private static String mediaType(Row row, FilePlan file) {
        String fixed = file.mediaType();
        if (fixed != null) {
            return fixed;
        }
        String type = row.text(file.type());
        return type != null && MEDIA_TYPE.matcher(type).matches() ? type : UNKNOWN_TYPE;
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
