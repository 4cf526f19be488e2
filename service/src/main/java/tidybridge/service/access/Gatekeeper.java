package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import tidybridge.service.run.Refusal;

/** Finds out who sends a request. Thread-safe. */
public interface Gatekeeper {

    /** True when a request shows something that {@link #identify} may refuse. */
    default boolean isShown(HttpServletRequest request) {
        return request.getHeader("Authorization") != null;
    }

    /**
     * Who sends it; a stranger when it shows nothing.
     *
     * @throws Refusal when it shows something that is not valid here, whatever it is
     */
    Visitor identify(HttpServletRequest request) throws Refusal;
}
