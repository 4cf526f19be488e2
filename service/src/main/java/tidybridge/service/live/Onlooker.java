package tidybridge.service.live;

import jakarta.servlet.http.HttpServletRequest;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.Needs;
import tidybridge.core.bind.Caller;
import tidybridge.core.definition.Listing;

/**
 * Somebody who looks at modules, and what of them they may know.
 *
 * @param request what they look with
 */
public record Onlooker(Caller caller, HttpServletRequest request) {

    /** True when a module is called from where a request comes. */
    public static boolean comesFromAllowed(LiveModule module, HttpServletRequest request) {
        AddressList addresses = module.admission().addresses();
        return addresses == AddressList.EVERYWHERE || addresses.contains(request.getRemoteAddr());
    }

    /** True when a module is called over connections such as that of a request. */
    public static boolean comesProtected(LiveModule module, HttpServletRequest request) {
        return !module.admission().tls() || request.isSecure();
    }

    /** True when they hold a privilege that an operation of it asks for, or it asks for none. */
    public boolean holdsSomeOf(LiveModule module) {
        for (Needs needs : module.needs()) {
            if (needs.areMetBy(caller.privileges())) {
                return true;
            }
        }
        return module.needs().isEmpty() && caller.privileges() == Holdings.ALL;
    }

    /** True when they may call an operation of it that asks for something, from where they are. */
    public boolean calls(LiveModule module, Needs needs) {
        return comesFromAllowed(module, request)
                && comesProtected(module, request)
                && needs.areMetBy(caller.privileges());
    }

    /** True when they may call something of it from where they are. */
    public boolean calls(LiveModule module) {
        return comesFromAllowed(module, request) && comesProtected(module, request) && holdsSomeOf(module);
    }

    /** True when they may read its reference, whether or not they may call it. */
    public boolean reads(LiveModule module) {
        return isShownTo(module.said().listing().audience()) || calls(module);
    }

    /** True when they find it in the directory. */
    public boolean finds(LiveModule module) {
        Listing.Audience audience = module.said().listing().audience();
        return audience != Listing.Audience.NOBODY && (isShownTo(audience) || calls(module));
    }

    private boolean isShownTo(Listing.Audience audience) {
        return switch (audience) {
            case EVERYBODY -> true;
            case SIGNED_IN -> caller.isKnown();
            case CALLERS, NOBODY -> false;
        };
    }
}
