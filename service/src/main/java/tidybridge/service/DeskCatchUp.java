package tidybridge.service;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.web.servlet.HandlerInterceptor;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.Visitor;
import tidybridge.service.live.LiveModules;

/**
 * Whoever changes something through one node and then asks another sees it: before a call of the management API is answered, the node takes
 * over what others changed. That costs two short looks at the records. Just after the start such a call waits until everything is compiled.
 */
final class DeskCatchUp implements HandlerInterceptor {

    private static final Logger LOG = LoggerFactory.getLogger(DeskCatchUp.class);

    private final LiveAccess access;
    private final LiveModules modules;

    DeskCatchUp(LiveAccess access, LiveModules modules) {
        this.access = access;
        this.modules = modules;
    }

    @Override
    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler) {
        if (Visitor.of(request).caller().isKnown()) {
            access.catchUp();
            modules.whole();
            try {
                modules.catchUp();
            } catch (RuntimeException e) {
                LOG.debug("What other nodes changed cannot be taken over now", e);
            }
        }
        return true;
    }
}
