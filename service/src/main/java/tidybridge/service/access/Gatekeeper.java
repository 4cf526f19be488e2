package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import tidybridge.core.bind.Caller;
import tidybridge.service.run.Refusal;

/** Decides who may call what, before anything about a route is told. Thread-safe. */
public interface Gatekeeper {

    /** Who sends a request, whatever they may; asked only when somebody wants to know. */
    Caller identify(HttpServletRequest request);

    /**
     * Lets a request pass.
     *
     * @throws Refusal when it may not, with a problem that tells what is missing and nothing else
     */
    void admit(HttpServletRequest request, Needs needs) throws Refusal;
}
