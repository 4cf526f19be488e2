package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import tidybridge.service.OwnAddress;
import tidybridge.service.live.ReferenceFiles;
import tidybridge.service.live.Target;

/** Answers a call of a module's reference. */
final class ReferenceCall {

    private ReferenceCall() {}

    static void run(Target.Reference target, HttpServletRequest request, HttpServletResponse response)
            throws IOException {
        ReferenceFiles files = target.module().reference();
        if (files == null) {
            throw new IllegalStateException("only served modules have routes");
        }
        ReferenceFiles.File file = target.yaml() ? files.yaml() : files.json();
        WholeAnswer.send(file.bytes(OwnAddress.of(request)), file.mediaType(), "no-cache", request, response);
    }
}
