package tidybridge.service.gateway;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Needs;
import tidybridge.core.bind.Caller;
import tidybridge.service.access.Gatekeeper;
import tidybridge.service.live.LiveModule;
import tidybridge.service.live.Onlooker;
import tidybridge.service.run.Refusal;
import tidybridge.service.traffic.CallRecord;

/**
 * A request that has come, and who sends it: found out once, and only when somebody wants to know or it shows a credential. Used by one
 * thread.
 */
public final class Arrival {

    private final HttpServletRequest request;
    private final Gatekeeper gatekeeper;
    private final CallRecord record;
    private @Nullable Caller caller;

    /**
     * Receives a request.
     *
     * @throws Refusal when it shows a credential that is not valid
     */
    public Arrival(HttpServletRequest request, Gatekeeper gatekeeper, CallRecord record) throws Refusal {
        this.request = request;
        this.gatekeeper = gatekeeper;
        this.record = record;
        if (gatekeeper.isShown(request)) {
            caller = identify();
        }
    }

    private Caller identify() throws Refusal {
        Caller known = gatekeeper.identify(request).atGateway(request).caller();
        record.caller(known.name());
        return known;
    }

    public Caller caller() {
        if (caller == null) {
            try {
                caller = identify();
            } catch (Refusal e) {
                throw new IllegalStateException("what can be refused was looked at first", e);
            }
        }
        return caller;
    }

    /** Who sends it, if somebody wanted to know; null otherwise. */
    @Nullable
    Caller shown() {
        return caller;
    }

    public boolean meets(Needs needs) {
        return needs.open() || needs.areMetBy(caller().privileges());
    }

    private void admit(LiveModule module) throws Refusal {
        if (!Onlooker.comesFromAllowed(module, request)) {
            throw MissingAccess.from(request.getRemoteAddr(), module);
        }
        if (!Onlooker.comesProtected(module, request)) {
            throw MissingAccess.unprotected(module, request.getHeader("Authorization") != null);
        }
    }

    /** True when something of a module may be called from here, so that it may be known. */
    boolean sees(LiveModule module) {
        return onlooker().calls(module);
    }

    private Onlooker onlooker() {
        return new Onlooker(caller(), request);
    }

    /**
     * Lets the request read a module's reference, which may be shown to more than those who may call it.
     *
     * @throws Refusal as for whoever may not see it
     */
    void read(LiveModule module) throws Refusal {
        if (!onlooker().reads(module)) {
            see(module);
        }
    }

    /**
     * Lets the request see a module.
     *
     * @throws Refusal with the same words for all of its paths and methods, whether they are there or not
     */
    public void see(LiveModule module) throws Refusal {
        admit(module);
        if (!onlooker().holdsSomeOf(module)) {
            throw MissingAccess.toModule(caller(), module);
        }
    }

    /**
     * Lets the request see what is told of several modules together, to whoever may see one of them.
     *
     * @throws Refusal that names what is missing for the last one
     */
    void seeOneOf(List<LiveModule> modules) throws Refusal {
        for (LiveModule module : modules) {
            if (onlooker().reads(module)) {
                return;
            }
        }
        see(modules.getLast());
    }

    /**
     * Lets the request call an operation.
     *
     * @throws Refusal that names what is missing
     */
    void call(LiveModule module, Needs needs) throws Refusal {
        admit(module);
        if (!meets(needs)) {
            see(module);
            throw MissingAccess.toOperation(caller(), needs);
        }
    }
}
