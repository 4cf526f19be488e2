package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import tidybridge.service.live.ReferenceFiles;
import tidybridge.service.live.Target;

/** Answers a call of a module's reference. */
final class ReferenceCall {

    private static final int HTTP = 80;
    private static final int HTTPS = 443;

    private ReferenceCall() {}

    static void run(Target.Reference target, HttpServletRequest request, HttpServletResponse response, boolean head)
            throws IOException {
        ReferenceFiles files = target.module().reference();
        if (files == null) {
            throw new IllegalStateException("only served modules have routes");
        }
        ReferenceFiles.File file = target.yaml() ? files.yaml() : files.json();
        send(file.bytes(origin(request)), file.mediaType(), request, response, head);
    }

    /** Sends a document whole, unless the caller has it. */
    static void send(
            byte[] bytes, String mediaType, HttpServletRequest request, HttpServletResponse response, boolean head)
            throws IOException {
        String tag = ReferenceFiles.File.tag(bytes);
        response.setHeader("ETag", tag);
        response.setHeader("Cache-Control", "no-cache");
        String known = request.getHeader("If-None-Match");
        if (known != null && new TagList(known, true).name(true, tag)) {
            response.setStatus(HttpServletResponse.SC_NOT_MODIFIED);
            return;
        }
        response.setContentType(mediaType);
        response.setContentLength(bytes.length);
        if (!head) {
            response.getOutputStream().write(bytes);
        }
    }

    /** Where the service is for this caller; behind a proxy that is trusted, as the proxy says. */
    static String origin(HttpServletRequest request) {
        int port = request.getServerPort();
        boolean usual = request.isSecure() ? port == HTTPS : port == HTTP;
        return request.getScheme() + "://" + request.getServerName() + (usual ? "" : ":" + port);
    }
}
