package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import tidybridge.service.live.ReferenceFiles;
import tidybridge.service.live.Target;

/** Answers a call of a module's reference. */
final class ReferenceCall {

    private ReferenceCall() {}

    static void run(Target.Reference target, HttpServletRequest request, HttpServletResponse response, boolean head)
            throws IOException {
        ReferenceFiles files = target.module().reference();
        if (files == null) {
            throw new IllegalStateException("only served modules have routes");
        }
        ReferenceFiles.File file = target.yaml() ? files.yaml() : files.json();
        response.setHeader("ETag", file.tag());
        response.setHeader("Cache-Control", "no-cache");
        String known = request.getHeader("If-None-Match");
        if (known != null && new TagList(known, true).name(true, file.tag())) {
            response.setStatus(HttpServletResponse.SC_NOT_MODIFIED);
            return;
        }
        response.setContentType(file.mediaType());
        response.setContentLength(file.bytes().length);
        if (!head) {
            response.getOutputStream().write(file.bytes());
        }
    }
}
