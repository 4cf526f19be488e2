package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.BodyKind;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.capacity.BodyIntake;
import tidybridge.service.capacity.BytesInFlight;
import tidybridge.service.run.Refusal;

/** Reads the bodies of requests: of the media type an operation wants, in UTF-8, and not too large. */
final class RequestBodies {

    static final int LARGEST_BYTES = 4 * 1024 * 1024;

    /** What a partial update is sent as (RFC 7396). */
    static final String MERGE_PATCH = "application/merge-patch+json";

    /** A type of JSON with a name of its own (RFC 6839). */
    private static final Pattern OWN_JSON = Pattern.compile("application/[^/ ]+\\+json");

    private RequestBodies() {}

    /** The body; null when the request has none. */
    static byte @Nullable [] read(HttpServletRequest request, BodyKind kind, BytesInFlight.Share share)
            throws Refusal, IOException {
        if (!BodyIntake.hasBody(request)) {
            return null;
        }
        if (kind == BodyKind.NONE) {
            throw new Refusal(ProblemKind.BODY_UNKNOWN, "This call takes no body; send its inputs in the address.");
        }
        if (!fits(request.getContentType(), kind)) {
            boolean patch = kind == BodyKind.JSON && request.getMethod().equals("PATCH");
            throw new Refusal(
                    ProblemKind.BODY_UNKNOWN,
                    "This call reads " + (patch ? MERGE_PATCH + " or " : "") + kind.mediaType()
                            + " in UTF-8; say so in Content-Type, and send that.");
        }
        byte[] bytes = BodyIntake.read(request, LARGEST_BYTES, share);
        return bytes.length == 0 ? null : bytes;
    }

    /** {@code application/json}, any {@code +json} type where JSON is read, with no charset but UTF-8. */
    private static boolean fits(@Nullable String contentType, BodyKind kind) {
        if (contentType == null) {
            return false;
        }
        String[] parts = contentType.toLowerCase(Locale.ROOT).split(";", -1);
        String type = parts[0].strip();
        boolean known = type.equals(kind.mediaType())
                || kind == BodyKind.JSON && OWN_JSON.matcher(type).matches();
        for (int i = 1; i < parts.length; i++) {
            String parameter = parts[i].strip().replace("\"", "");
            if (parameter.startsWith("charset=")
                    && !parameter.equals("charset=utf-8")
                    && !parameter.equals("charset=utf8")) {
                return false;
            }
        }
        return known;
    }
}
