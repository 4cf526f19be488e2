package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import tidybridge.service.live.ReferenceFiles;

/** An answer that is known as a whole before it is sent, such as a page or a document. */
public final class WholeAnswer {

    private WholeAnswer() {}

    /**
     * Sends it, unless whoever asks has it already.
     *
     * @param caching what {@code Cache-Control} says (RFC 9111)
     */
    public static void send(
            byte[] bytes, String mediaType, String caching, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        String tag = ReferenceFiles.File.tag(bytes);
        // a weak one, as the same is sent compressed to those who take it so (RFC 9110, 8.8.1)
        response.setHeader("ETag", "W/" + tag);
        response.setHeader("Cache-Control", caching);
        String known = request.getHeader("If-None-Match");
        if (known != null && new TagList(known, true).name(true, tag)) {
            response.setStatus(HttpServletResponse.SC_NOT_MODIFIED);
            return;
        }
        response.setContentType(mediaType);
        response.setContentLength(bytes.length);
        if (!request.getMethod().equals("HEAD")) {
            response.getOutputStream().write(bytes);
        }
    }
}
