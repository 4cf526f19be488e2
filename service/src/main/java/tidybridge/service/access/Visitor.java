package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.bind.Caller;
import tidybridge.records.Session;

/**
 * Whoever sent a request, as far as they have shown who they are.
 *
 * @param session null without one
 * @param byCookie true when a browser showed it by itself, perhaps for somebody else's page
 */
public record Visitor(Caller caller, @Nullable Session session, boolean byCookie) {

    private static final String ATTRIBUTE = Visitor.class.getName();

    static Visitor stranger(String address) {
        return new Visitor(Caller.unknown(address), null, false);
    }

    /** Whoever sent a request of the management API. */
    public static Visitor of(HttpServletRequest request) {
        return request.getAttribute(ATTRIBUTE) instanceof Visitor visitor ? visitor : stranger(request.getRemoteAddr());
    }

    void note(HttpServletRequest request) {
        request.setAttribute(ATTRIBUTE, this);
    }

    /** The same at the gateway, where a cookie counts only when the service's own pages sent it. */
    public Visitor atGateway(HttpServletRequest request) {
        return byCookie && !OwnPages.sent(request) ? stranger(caller.address()) : this;
    }

    /** True when they hold a privilege of the service's own. */
    public boolean holds(ServicePrivilege privilege) {
        return caller.privileges().test(privilege.privilege());
    }

    /** What the records call them. */
    public String who() {
        String name = caller.name();
        return name == null ? "somebody unknown" : name;
    }

    /** The person's name; null for applications and for whoever came by the administrator's token. */
    public @Nullable String person() {
        return session == null ? null : session.person();
    }
}
